#include "reading/clip_reading.h"
#include "base/median.h"
#include "base/parallel.h"
#include "body/motion.h"
#include "camera/synchrony.h"
#include "measure/measure_value.h"
#include "reading/whole_phases.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr int kLeftOut = 3; ///< of the points whose motion counts: a leg that is misread is no motion

using Values = std::array<double, kMeasureCount>;

/// All measures of a placed body as they count at a moment.
Values measuresOf(const BodyPoints& points, const MomentPrior& moment)
{
    Values values{};
    for (std::size_t m = 0; m < kMeasureCount; ++m)
        values[m] =
            measureValue(static_cast<Measure>(m), points, moment.lengths, moment.lead, moment.heading);
    return values;
}

/// What the arrival itself leaves open; `own` are the measures in its frame.
MomentUncertainty doubtOf(const PlacedClip& clip, const FoundPhase& phase, const MomentPrior& prior,
                          const Values& own)
{
    MomentUncertainty doubt(phase.cost, prior.points);
    for (const double look : MomentUncertainty::kLooks) {
        const BodyFrame frame = frameAt(clip.track, phase.time + look);
        if (!frame.seen) continue;
        const Values then = measuresOf(clip.measurer->place(frame, clip.priorAt(frame.time, phase)), prior);
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            doubt.addChange(static_cast<Measure>(m), then[m] - own[m], look);
    }
    return doubt;
}

/// The median of each measure over the still window around the arrival.
std::vector<Value> atArrival(const PlacedClip& clip, const FoundPhase& phase)
{
    const BodyFrame& middle = clip.track.frames[clip.track.nearest(phase.time)];
    const MomentPrior prior = clip.priorAt(phase.time);
    const Values own = measuresOf(clip.measurer->place(middle, prior), prior);
    std::vector<Value> values =
        clip.measurer->measure(middle, clip.priorAt(middle.time), doubtOf(clip, phase, prior, own));
    std::vector<std::vector<double>> around(values.size());
    for (std::size_t i = clip.track.nearest(phase.time - kHoldWindow / 2);
         i <= clip.track.nearest(phase.time + kHoldWindow / 2); ++i) {
        if (!clip.track.frames[i].seen) continue;
        const Values then = measuresOf(clip.measurer->place(clip.track.frames[i], prior), prior);
        for (std::size_t m = 0; m < values.size(); ++m)
            around[m].push_back(then[m]);
    }
    for (std::size_t m = 0; m < values.size(); ++m)
        // The single frame's value holds the bias correction; the median only moves it.
        if (!around[m].empty()) values[m].value += median(std::move(around[m])) - own[m];
    return values;
}

/// The values at all key moments.
std::vector<MeasuredPhase> measuredArrivals(const PlacedClip& clip)
{
    const double size = standingSize(clip.track), usual = motionQuantile(clip.track, size, 0.5, kLeftOut);
    const auto& found = clip.lineUp.phases;
    std::vector<MeasuredPhase> phases(found.size());
    inParallel(found.size(), [&](std::size_t i) {
        const FoundPhase& p = found[i];
        phases[i].phase = p;
        if (p.matched) phases[i].values = atArrival(clip, p);
        // In an arrival the body is stiller than usual; elsewhere the line-up has missed it, and nothing read
        // there would be of the posture. A posture done as its mirror picture has no model to be measured by.
        if (p.otherSide || motionAt(clip.track, size, p.time, kLeftOut) > usual)
            for (Value& v : phases[i].values)
                v.status = Status::Unseen;
    });
    return phases;
}

} // namespace

ClipReading measureClip(PlacedClip placed, const AccuracyTable& accuracy)
{
    ClipReading clip{std::move(placed), {}, {}, {}};
    clip.phases = measuredArrivals(clip);
    const AccuracyTable table = accuracy.forNetworks({clip.track.model});
    WholePhases whole = measureWholePhases(clip, table);
    clip.footEvents = std::move(whole.footEvents);
    clip.leaps = std::move(whole.leaps);
    for (std::size_t i = 0; i < clip.phases.size(); ++i)
        clip.phases[i].whole = std::move(whole.values[i]);
    return clip;
}

Result<ClipReading> readClip(Track extracted, std::span<const ModelPerformance> models,
                             const PersonProfile& profile, const MeasuringTables& tables,
                             std::optional<double> azimuthHint, const CalibrationHints& hints)
{
    auto clip = lineUpClip(std::move(extracted), models, azimuthHint);
    if (!clip) return clip.error();
    return measureClip(placeClip(std::move(*clip), profile, tables, hints), tables.accuracy);
}

std::optional<ClipReading> readExpectingDepartures(const ClipReading& clip,
                                                   std::span<const ModelPerformance> models,
                                                   const MeasuringTables& tables)
{
    const auto model = std::find_if(models.begin(), models.end(),
                                    [&](const ModelPerformance& m) { return m.lead == clip.lead(); });
    if (model == models.end()) return {};
    LineUp known = clip.lineUp;
    known.model = static_cast<std::size_t>(model - models.begin());
    auto found = lineUpFrom(known, clip.track, models, PostureLook::Expecting);
    if (!found || !found->departs()) return {}; // the reading that there is stands
    return measureClip(withLineUp(clip, std::move(*found), tables.offsets), tables.accuracy);
}

Result<ClipReading> readAsCut(const ClipReading& clip, std::span<const PostureCut> cuts,
                              const MeasuringTables& tables)
{
    auto found = lineUpAsCut(clip.lineUp, clip.model, cuts, clip.track.frames.front().time,
                             clip.track.frames.back().time);
    if (!found) return found.error();
    return measureClip(withLineUp(clip, std::move(*found), tables.offsets), tables.accuracy);
}

} // namespace jl
