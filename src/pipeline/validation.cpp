#include "pipeline/validation.h"
#include "base/angles.h"
#include "exchange/track_file.h"
#include "performer/events.h"
#include "performer/phase_truth.h"
#include "performer/truth.h"
#include "pipeline/clip_source.h"
#include "pipeline/network_noise.h"
#include "review/review.h"
#include <algorithm>
#include <unistd.h>

namespace jl
{

namespace
{

Result<Track> renderedTrack(const ShippedData& data, const ValidationCase& c, const Performance& performance,
                            const NetworkChoice& networks, const std::filesystem::path& cache)
{
    const auto kept = cache / (caseName(data, c) + "-" + networks.name() + "-" LANTERN_VERSION ".json");
    std::error_code ignored;
    if (std::filesystem::exists(kept, ignored)) return readTrack(kept);
    std::filesystem::create_directories(cache, ignored);
    const auto video =
        std::filesystem::temp_directory_path() / ("jolly-lantern-" + std::to_string(::getpid()) + ".mp4");
    const auto rendered = renderClip(performance, clipRequestOf(c), video.string());
    if (!rendered) return rendered.error();
    auto track = trackOf(video.string(), networks, {});
    std::filesystem::remove(video, ignored);
    if (!track) return track.error();
    const auto written = writeTrack(*track, kept);
    if (!written) return written.error();
    return track;
}

std::vector<ValidationSample> samplesOf(const ShippedData& data, const ValidationCase& c,
                                        const Performance& performance,
                                        const std::vector<PhaseReading>& phases)
{
    std::vector<ValidationSample> samples;
    const SchoolStandard& school = *data.standards.school(c.school);
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const PhaseReading& reading = phases[i];
        const PerformedPhase& performed = performance.phases()[i];
        const Bands bands = data.standards.bandsFor(data.standards.phase(performed.posture, performed.phase),
                                                    school, performance.body().footLength());
        const Figure figure = performance.movingFigureAt(performed.time);
        for (const Value& v : reading.values) {
            const auto band = bands.find(v.measure);
            const Status status =
                statusOf(v, band == bands.end() ? std::nullopt : std::optional(band->second));
            samples.push_back({performed.posture, performed.phase, std::string(viewName(v.view)), v,
                               trueMeasure(v.measure, figure, performed.lead, performed.heading),
                               status != Status::Unseen, band != bands.end(),
                               reading.phase.time - performed.time});
        }
    }
    return samples;
}

std::optional<double> trueWhole(PhaseMeasure m, const PhaseTruth& t, const FloorEvent* touch)
{
    switch (m) {
    case PhaseMeasure::Duration:
        return t.duration;
    case PhaseMeasure::PelvisTurn:
        return t.pelvisTurn;
    case PhaseMeasure::LeftPivot:
        return t.pivot[Side::Left].amount;
    case PhaseMeasure::RightPivot:
        return t.pivot[Side::Right].amount;
    case PhaseMeasure::PelvisBob:
        return t.bob;
    case PhaseMeasure::KneeLeadDrift:
        return t.kneeDrift;
    case PhaseMeasure::WeightEvenness:
        return t.backwardShift;
    case PhaseMeasure::WeightDoubleTime:
        return t.doubleTime;
    case PhaseMeasure::TurnLeads:
        return t.turnLeads;
    case PhaseMeasure::HandFootLag:
        return t.handsAfterWeight;
    case PhaseMeasure::OrderShiftStep:
        return t.order.shiftStep;
    case PhaseMeasure::OrderTurnStep:
        return t.order.turnStep;
    case PhaseMeasure::FlowSmoothness:
        return t.smoothness;
    case PhaseMeasure::FlowPauses:
        return t.pauses;
    case PhaseMeasure::BalanceHold:
        return t.oneLegTime;
    case PhaseMeasure::BalanceSway:
        return t.sway;
    case PhaseMeasure::StepHeelToFlat:
        return touch ? std::optional(touch->flatAt - touch->time) : std::nullopt;
    case PhaseMeasure::StepWeightAtContact:
        return touch ? std::optional(touch->weight) : std::nullopt;
    case PhaseMeasure::StepDrop:
        return touch ? std::optional(touch->drop) : std::nullopt;
    }
    return {};
}

std::vector<PhaseSample> phaseSamplesOf(const Performance& performance,
                                        const std::vector<PhaseReading>& phases)
{
    std::vector<PhaseSample> samples;
    const std::vector<FloorEvent> events = floorEvents(performance);
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const PerformedPhase& performed = performance.phases()[i];
        if (phases[i].whole.empty() || performed.begin <= 0) continue;
        const PhaseTruth truth = phaseTruth(performance, performed);
        const auto touch = std::find_if(events.begin(), events.end(), [&](const FloorEvent& e) {
            return e.kind == FloorEvent::Kind::Contact && e.time > performed.begin && e.time < performed.time;
        });
        for (const PhaseValue& v : phases[i].whole)
            if (const auto t = trueWhole(v.measure, truth, touch == events.end() ? nullptr : &*touch))
                samples.push_back({performed.posture, performed.phase, v, *t});
    }
    return samples;
}

Result<CaseOutcome> measuredCase(const ShippedData& data, const ValidationCase& c,
                                 const Performance& performance, Track track)
{
    const auto models = data.models(c.form, c.school, c.lead);
    if (!models) return models.error();
    PersonProfile profile;
    if (c.heightKnown) profile.height = performance.body().height;
    auto clip = readClip(track, *models, profile, data.tables);
    if (!clip) return clip.error();

    CaseOutcome out{c, {}, {}, track.seenShare(), 0, std::move(track), {}};
    out.azimuthError = wrapDeg(clip->camera.azimuth - clipRequestOf(c).camera.azimuth);
    out.samples = samplesOf(data, c, performance, clip->phases);
    out.phaseSamples = phaseSamplesOf(performance, clip->phases);
    out.reading = std::make_shared<const ClipReading>(std::move(*clip));
    return out;
}

} // namespace

Result<CaseOutcome> runCase(const ShippedData& data, const ValidationCase& c, const NetworkChoice& networks,
                            const std::filesystem::path& cache)
{
    const auto performance = performanceOf(data, c);
    if (!performance) return performance.error();
    auto track = renderedTrack(data, c, *performance, networks, cache);
    if (!track) return track.error();
    return measuredCase(data, c, *performance, std::move(*track));
}

Result<CaseOutcome> followCase(const ShippedData& data, const ValidationCase& c,
                               const NetworkChoice& networks, const std::filesystem::path& cache)
{
    const auto performance = performanceOf(data, c);
    if (!performance) return performance.error();
    auto track = renderedTrack(data, c, *performance, networks, cache);
    if (!track) return track.error();
    CaseOutcome out{c, {}, {}, track->seenShare(), 0, {}, {}};
    out.track = std::move(*track);
    return out;
}

Result<CaseOutcome> runAnalyticCase(const ShippedData& data, const ValidationCase& c)
{
    const auto performance = performanceOf(data, c);
    if (!performance) return performance.error();
    const ClipRequest request = clipRequestOf(c);
    const Camera camera = cameraFor(*performance, request);
    const double height = performance->body().height;
    Track track = exactTrack(*performance, request);
    for (BodyFrame& f : track.frames) { // where the networks put their points
        const BodyPoints seen = data.tables.offsets.toNetwork(performance->figureAt(f.time).landmark, height);
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            f.point[k] = camera.project(seen[k]);
    }
    const double distance = camera.toCamera(performance->figureAt(0).midHip).z();
    return measuredCase(data, c, *performance,
                        withNoise(std::move(track), height * camera.focal / distance,
                                  c.seed + static_cast<std::uint32_t>(c.view.size())));
}
Result<CaseOutcome> pairOutcome(const ShippedData& data, const CaseOutcome& first, const CaseOutcome& second)
{
    const auto performance = performanceOf(data, first.request);
    if (!performance) return performance.error();
    const auto pair = readTogether(*first.reading, *second.reading, data.tables);
    if (!pair) return pair.error();
    CaseOutcome out{first.request, {}, {}, std::min(first.seenShare, second.seenShare), 0, {}, {}};
    out.samples = samplesOf(data, first.request, *performance, pair->phases);
    out.phaseSamples = phaseSamplesOf(*performance, pair->phases);
    return out;
}

double ValidationSample::error() const
{
    const double difference = value.value - truth;
    return measureInfo(value.measure).unit == Unit::Degrees ? wrapDeg(difference) : difference;
}

} // namespace jl
