#include "reading/pair_measurement.h"
#include "base/angles.h"
#include "base/median.h"
#include "base/units.h"
#include "measure/fused_value.h"
#include "moment/pair_smoother.h"
#include "reading/whole_phases.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of reading two clips together.
/// Chosen on: 56 drawn pairs of two practices (refusal); the quick set in pairs (the rest).
struct PairOptions {
    /// Correlation of the movements below which no offset is tried. x0.5 and x2: none.
    Ratio leastLikeness = 0.2;
    /// Distance of arrivals in both clips up to which they are one. x0.5 and x2: none.
    Seconds agreement = 0.35;
    /// Between two frames of the motion of both. x0.5 and x2: none.
    Seconds step = 1 / 30.0;
    /// Moments to either side of an arrival that are smoothed together. x0.5: err +0.6 %; x2: none.
    int momentsAround = 5;
    /// Between these moments. x0.5: err +0.6 %; x2: none.
    Seconds aroundStep = 1 / 15.0;
    /// RMS lag up to which arrivals are not compared. x0.5 and x2: none.
    Seconds hardlyLag = 0.045;
    /// Correlation of the movements which that needs. x0.5 and x2: none.
    Ratio alikeMovement = 0.45;
    /// Distance from the offset up to which an arrival agrees. x0.5 and x2: none.
    Seconds nearArrival = 0.2;
    /// RMS lag of clips filmed at once. x0.5 and x2: none.
    Seconds usualLag = 0.03;
    /// Share of arrivals that must agree besides the half, for each second of lag beyond the usual.
    /// x0.5 and x2: none.
    double askedPerLag = 10;
    /// Weight of the arrivals in the offset. x0.5 and x2: none.
    Share shareOfArrivals = 1.0 / 3;
    /// Distance from the offset by movement up to which the arrivals count. x0.5 and x2: none.
    Seconds arrivalsNear = 0.2;
    /// Arrivals from which an offset can be taken from them. x0.5 and x2: none.
    std::size_t tellingArrivals = 3;
    /// Fewer do not refuse a pair. x0.5 and x2: none.
    std::size_t fewArrivals = 5;
    /// Standard deviation of an offset from arrivals. x0.5 and x2: none.
    Seconds arrivalSpread = 0.05;
};
constexpr PairOptions kOptions;

bool isSameArrival(const FoundPhase& first, const FoundPhase& second, double offset)
{
    return second.matched && std::abs(second.time - offset - first.time) < kOptions.agreement;
}

/// The arrival as both clips have it, in the first clip's time.
double arrivalOf(const FoundPhase& first, const FoundPhase& second, double offset)
{
    return isSameArrival(first, second, offset) ? 0.5 * (first.time + second.time - offset) : first.time;
}

/// Both clips in the first one's time.
struct BothClips {
    const ClipReading &first, &second;
    double offset; ///< s

    std::pair<BodyFrame, BodyFrame> at(double time) const
    {
        return {frameAt(first.track, time), frameAt(second.track, time + offset)};
    }
    PairWindow around(double time) const
    {
        PairWindow window;
        window.step = kOptions.aroundStep;
        for (int k = -kOptions.momentsAround; k <= kOptions.momentsAround; ++k) {
            auto [a, b] = at(time + k * kOptions.aroundStep);
            window.first.push_back(std::move(a));
            window.second.push_back(std::move(b));
        }
        return window;
    }
};

/// The bones as they are over all arrivals.
SteadyBones bonesOver(const TwoViewMeasurer& measurer, const std::vector<PairWindow>& windows)
{
    std::vector<BodyPoints> bodies;
    for (const PairWindow& w : windows)
        for (std::size_t k = 0; k < w.first.size(); ++k)
            if (w.first[k].seen && w.second[k].seen)
                bodies.push_back(measurer.place(w.first[k], w.second[k]).points);
    return SteadyBones(bodies);
}

/// The median of a measure over the hold, from each moment's lines of sight.
std::vector<double> overHold(const TwoViewMeasurer& measurer, const BothClips& clips,
                             const MomentPrior& moment, double time)
{
    std::vector<std::vector<double>> around(kMeasureCount);
    for (double t = time - kHoldWindow / 2; t <= time + kHoldWindow / 2 + 1e-9; t += kOptions.step) {
        const auto [a, b] = clips.at(t);
        if (!a.seen || !b.seen) continue;
        const BodyPoints points = measurer.place(a, b).points;
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            around[m].push_back(measurer.measureOf(static_cast<Measure>(m), points, moment));
    }
    std::vector<double> medians(kMeasureCount, NAN);
    for (std::size_t m = 0; m < kMeasureCount; ++m) {
        if (around[m].empty()) continue;
        const auto half = around[m].begin() + static_cast<std::ptrdiff_t>(around[m].size() / 2);
        std::nth_element(around[m].begin(), half, around[m].end());
        medians[m] = *half;
    }
    return medians;
}

/// What the arrival itself leaves open; `own` is the body there.
MomentUncertainty doubtOf(const TwoViewMeasurer& measurer, const BothClips& clips, const MomentPrior& moment,
                          const FoundPhase& phase, const BodyPoints& own)
{
    MomentUncertainty doubt(phase.cost, moment.points);
    for (const double look : MomentUncertainty::kLooks) {
        const auto [a, b] = clips.at(phase.time + look);
        if (!a.seen || !b.seen) continue;
        const BodyPoints then = measurer.place(a, b).points;
        for (const MeasureInfo& info : allMeasures())
            doubt.addChange(info.measure,
                            measurer.measureOf(info.measure, then, moment) -
                                measurer.measureOf(info.measure, own, moment),
                            look);
    }
    return doubt;
}

/// Every measure at an arrival: of the body that all moments around it agree on, or, where it is not seen
/// throughout, over the hold; with the arrival's own uncertainty.
std::vector<Value> atArrival(const TwoViewMeasurer& measurer, const BothClips& clips,
                             const PairWindow& window, const SteadyBones& bones, const FoundPhase& phase)
{
    const MomentPrior moment = clips.first.priorAt(phase.time);
    const auto middle = clips.at(phase.time);
    const BodyPoints own = measurer.place(middle.first, middle.second).points;
    std::vector<Value> values =
        measurer.measure(middle.first, middle.second, moment, doubtOf(measurer, clips, moment, phase, own));
    const auto body = smoothTogether(measurer, window, bones, clips.first.profile.heightOrUsual());
    const std::vector<double> held =
        body ? std::vector<double>() : overHold(measurer, clips, moment, phase.time);
    for (std::size_t m = 0; m < values.size(); ++m) {
        const auto of = [&](const BodyPoints& points) {
            return measurer.measureOf(values[m].measure, points, moment);
        };
        const double change = (body ? of(*body) : held[m]) - of(own);
        if (!std::isfinite(change)) continue;
        const double value = values[m].value + change;
        values[m].value = measureInfo(values[m].measure).unit == Unit::Degree ? wrapDeg(value) : value;
    }
    return values;
}

/// With what clips say alone of the same arrival. What the lines of sight cannot give stays unseen.
MeasuredPhase withEachAlone(MeasuredPhase triangulated, const std::vector<const MeasuredPhase*>& alone,
                            std::string_view views, const AccuracyTable& accuracy)
{
    for (std::size_t m = 0; m < triangulated.values.size(); ++m) {
        Value& v = triangulated.values[m];
        if (!v.seen()) continue;
        std::vector<Value> readings{v};
        for (const MeasuredPhase* clip : alone)
            if (m < clip->values.size() && clip->values[m].seen()) readings.push_back(clip->values[m]);
        v = fusedValue(readings);
        const bool kept =
            accuracy.entry(v.view == View::Both ? views : viewName(v.view), v.measure).keepsPromise(v.u);
        v.status = kept ? Status::Ok : Status::Weak;
    }
    for (std::size_t m = 0; m < triangulated.whole.size(); ++m) {
        std::vector<PhaseValue> readings{triangulated.whole[m]};
        for (const MeasuredPhase* clip : alone)
            if (m < clip->whole.size()) readings.push_back(clip->whole[m]);
        triangulated.whole[m] = fusedValue(readings);
    }
    return triangulated;
}

/// By how much later the second clip shows each key moment than the first, s; of those that both show.
std::vector<double> arrivalsApart(const ClipReading& first, const ClipReading& second)
{
    std::vector<double> apart;
    for (std::size_t i = 0; i < std::min(first.phases.size(), second.phases.size()); ++i) {
        const FoundPhase &a = first.phases[i].phase, &b = second.phases[i].phase;
        if (a.matched && b.matched) apart.push_back(b.time - a.time);
    }
    return apart;
}

/// Whether the clips were filmed at once, as far as the key moments can say: who does a form twice arrives
/// now earlier, now later. Half of them must lie together, and more where the clips lag behind each other in
/// between. Where they hardly do and move alike, the arrivals are not asked: single views often miss them.
bool wereFilmedAtOnce(const TwoCameras& cameras, double likeness, const std::vector<double>& apart)
{
    if (cameras.lag > 0 && cameras.lag < kOptions.hardlyLag && likeness > kOptions.alikeMovement) return true;
    const auto together = std::count_if(apart.begin(), apart.end(), [&](double d) {
        return std::abs(d - cameras.offset) < kOptions.nearArrival;
    });
    const double asked = 0.5 + kOptions.askedPerLag * std::max(0.0, cameras.lag - kOptions.usualLag);
    return static_cast<double>(together) >= asked * static_cast<double>(apart.size());
}

/// None where they were not filmed at once.
std::optional<Synchrony> synchronyOf(const ClipReading& first, const ClipReading& second)
{
    const auto synchrony = synchronise(first.track, second.track);
    if (!synchrony || synchrony->likeness < kOptions.leastLikeness) return {};
    return *synchrony;
}

Error notAtOnce(const ClipReading& first, const ClipReading& second)
{
    return {Error::Kind::NothingFound, "the two clips were not filmed at the same time",
            first.track.clip + " and " + second.track.clip, "Use them as one after the other."};
}

/// The synchrony with what the arrivals say besides. Sound says more than they do, and movements that they
/// contradict are better left alone.
Synchrony withArrivals(Synchrony synchrony, const std::vector<double>& apart)
{
    if (synchrony.heard || apart.empty()) return synchrony;
    const double arrivals = median(apart);
    if (std::abs(arrivals - synchrony.offset) < kOptions.arrivalsNear)
        synchrony.offset = mix(synchrony.offset, arrivals, kOptions.shareOfArrivals);
    return synchrony;
}

/// Both cameras and the offset. Where the movements determine the offset badly, since little goes up or down,
/// the arrivals determine it. A few arrivals refuse nothing that the lines of sight allow.
Result<TwoCameras> camerasOf(const ClipReading& first, const ClipReading& second, const Synchrony& synchrony,
                             const LandmarkOffsets& offsets)
{
    const StandingView a = standingView(first), b = standingView(second);
    const std::vector<double> apart = arrivalsApart(first, second);
    auto found = placeTogether(a, b, withArrivals(synchrony, apart), first.profile, offsets);
    if (found && wereFilmedAtOnce(*found, synchrony.likeness, apart)) return found;
    if (apart.size() >= kOptions.tellingArrivals) {
        const Synchrony arrivals{median(apart), synchrony.likeness, kOptions.arrivalSpread, false};
        auto again = placeTogether(a, b, arrivals, first.profile, offsets);
        if (again && wereFilmedAtOnce(*again, synchrony.likeness, apart)) return again;
    }
    if (!found) return found.error();
    return apart.size() < kOptions.fewArrivals ? found : notAtOnce(first, second);
}

} // namespace

std::pair<ClipReading, ClipReading> agreedOnOrder(ClipReading first, ClipReading second,
                                                  std::span<const ModelPerformance> models,
                                                  const MeasuringTables& tables)
{
    std::pair both(std::move(first), std::move(second));
    const auto& [a, b] = both;
    if (a.lineUp.departs() == b.lineUp.departs()) return both;
    const auto synchrony = synchronyOf(a, b);
    // Clips that were not filmed at once need not agree.
    if (!synchrony || !placeTogether(standingView(a), standingView(b), *synchrony, a.profile, tables.offsets))
        return both;
    ClipReading& unaware = a.lineUp.departs() ? both.second : both.first;
    if (auto again = readExpectingDepartures(unaware, models, tables)) unaware = std::move(*again);
    return both;
}

Result<PairMeasurement> measureTogether(const ClipReading& first, const ClipReading& second,
                                        const MeasuringTables& tables)
{
    const auto synchrony = synchronyOf(first, second);
    if (!synchrony) return notAtOnce(first, second);
    const auto cameras = camerasOf(first, second, *synchrony, tables.offsets);
    if (!cameras) return cameras.error();
    PairMeasurement pair;
    pair.likeness = synchrony->likeness;
    pair.heard = synchrony->heard;
    const AccuracyTable accuracy = tables.accuracy.forNetworks({first.track.model, second.track.model});
    pair.measurer =
        std::make_shared<const TwoViewMeasurer>(*cameras, first.profile, tables.offsets, accuracy);
    const BothClips clips{first, second, cameras->offset};
    std::vector<PairWindow> windows;
    for (std::size_t i = 0; i < first.phases.size(); ++i) {
        MeasuredPhase reading{first.phases[i].phase, {}, {}};
        if (reading.phase.matched && i < second.phases.size()) {
            const FoundPhase& other = second.phases[i].phase;
            reading.phase.time = arrivalOf(reading.phase, other, cameras->offset);
            if (reading.phase.stoodUntil && other.stoodUntil)
                reading.phase.stoodUntil =
                    0.5 * (*reading.phase.stoodUntil + *other.stoodUntil - cameras->offset);
            if (other.matched) reading.phase.cost = std::max(reading.phase.cost, other.cost);
            windows.push_back(clips.around(reading.phase.time));
        }
        pair.triangulated.push_back(std::move(reading));
    }
    const SteadyBones bones = bonesOver(*pair.measurer, windows);
    auto window = windows.begin();
    for (MeasuredPhase& p : pair.triangulated)
        if (p.phase.matched && window != windows.end())
            p.values = atArrival(*pair.measurer, clips, *window++, bones, p.phase);
    auto whole = measureWholePhases(*pair.measurer, pair.triangulated, first, second, accuracy);
    for (std::size_t i = 0; i < whole.size(); ++i)
        pair.triangulated[i].whole = std::move(whole[i]);
    for (std::size_t i = 0; i < pair.triangulated.size(); ++i) {
        std::vector<const MeasuredPhase*> alone{&first.phases[i]};
        if (i < second.phases.size() &&
            isSameArrival(first.phases[i].phase, second.phases[i].phase, cameras->offset))
            alone.push_back(&second.phases[i]);
        const std::string_view views = pair.measurer->viewsOf(first.priorAt(pair.triangulated[i].phase.time));
        pair.phases.push_back(withEachAlone(pair.triangulated[i], alone, views, accuracy));
    }
    return pair;
}

} // namespace jl
