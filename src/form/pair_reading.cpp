#include "form/pair_reading.h"
#include "form/whole_phases.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kLeastLikeness = 0.2; ///< whether it was the same movement shows in the lines of sight
constexpr double kAgreement = 0.35;    ///< s, arrivals found in both clips that lie closer are one
constexpr double kHoldWindow = 0.2, kStep = 1 / 30.0;

/// The arrival as both clips have it, in the first clip's time.
double arrivalOf(const FoundPhase& first, const FoundPhase& second, double offset)
{
    const double other = second.time - offset;
    return second.matched && std::abs(other - first.time) < kAgreement ? 0.5 * (first.time + other)
                                                                       : first.time;
}

/// The median of each value over the hold, with the middle moment's uncertainty.
std::vector<Value> overHold(const TwoViewReader& reader, const ClipReading& first, const ClipReading& second,
                            const MomentPrior& moment, double time)
{
    const double offset = reader.cameras().offset;
    const auto at = [&](double t) {
        return std::pair(frameAt(first.track, t), frameAt(second.track, t + offset));
    };
    const auto middle = at(time);
    std::vector<Value> values = reader.read(middle.first, middle.second, moment);
    std::vector<std::vector<double>> around(values.size());
    for (double t = time - kHoldWindow / 2; t <= time + kHoldWindow / 2 + 1e-9; t += kStep) {
        const auto [a, b] = at(t);
        if (!a.seen || !b.seen) continue;
        const BodyPoints points = reader.place(a, b).points;
        for (std::size_t m = 0; m < values.size(); ++m)
            around[m].push_back(
                measureValue(values[m].measure, points, moment.lengths, moment.lead, moment.heading));
    }
    const BodyPoints centre = reader.place(middle.first, middle.second).points;
    for (std::size_t m = 0; m < values.size(); ++m) {
        if (around[m].empty()) continue;
        const auto half = around[m].begin() + static_cast<std::ptrdiff_t>(around[m].size() / 2);
        std::nth_element(around[m].begin(), half, around[m].end());
        const double own =
            measureValue(values[m].measure, centre, moment.lengths, moment.lead, moment.heading);
        if (std::isfinite(*half) && std::isfinite(own)) values[m].value += *half - own;
    }
    return values;
}

} // namespace

Result<PairReading> readTogether(const ClipReading& first, const ClipReading& second,
                                 const MeasuringTables& tables)
{
    const auto synchrony = synchronise(first.track, second.track);
    if (!synchrony || synchrony->likeness < kLeastLikeness)
        return Error{Error::Kind::NothingFound, "the two clips were not filmed at the same time",
                     first.track.clip + " and " + second.track.clip, "Use them as one after the other."};
    const auto cameras =
        placeTogether(standingView(first), standingView(second), *synchrony, first.profile, tables.offsets);
    if (!cameras) return cameras.error();
    PairReading pair;
    pair.likeness = synchrony->likeness;
    pair.heard = synchrony->heard;
    pair.reader =
        std::make_shared<const TwoViewReader>(*cameras, first.profile, tables.offsets, tables.accuracy);
    for (std::size_t i = 0; i < first.phases.size(); ++i) {
        PhaseReading reading{first.phases[i].phase, {}, {}};
        if (reading.phase.matched && i < second.phases.size()) {
            reading.phase.time = arrivalOf(reading.phase, second.phases[i].phase, cameras->offset);
            reading.values =
                overHold(*pair.reader, first, second, first.priorAt(reading.phase.time), reading.phase.time);
        }
        pair.phases.push_back(std::move(reading));
    }
    readWholePhases(pair, first, second, tables.accuracy);
    return pair;
}

} // namespace jl
