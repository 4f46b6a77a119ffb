#include "lab/validation.h"
#include "base/angles.h"
#include "exchange/track_file.h"
#include "lab/network_noise.h"
#include "performer/events.h"
#include "performer/truth.h"
#include "performer/whole_truth.h"
#include "pipeline/clip_source.h"
#include "review/review.h"
#include "vision/extraction.h"
#include <algorithm>
#include <unistd.h>

namespace jl
{

namespace
{

Result<Track> renderedTrack(const ShippedData& data, const ValidationCase& c, const Performance& performance,
                            const NetworkChoice& networks, const std::filesystem::path& cache)
{
    const auto kept = keptTrack(data, c, networks, cache);
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

/// What the table of accuracy calls the views of a pair's phase.
using PairViews = std::function<std::string_view(const MeasuredPhase&)>;

std::vector<ValidationSample> samplesOf(const ShippedData& data, const ValidationCase& c,
                                        const Performance& performance,
                                        const std::vector<MeasuredPhase>& phases,
                                        const PairViews& ofPair = {})
{
    std::vector<ValidationSample> samples;
    const SchoolStandard& school = *data.standards.school(c.school);
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const MeasuredPhase& reading = phases[i];
        const PerformedPhase& performed = performance.phases()[i];
        const Bands bands = data.standards.bandsFor(data.standards.phase(performed.posture, performed.phase),
                                                    school, performance.body().footLength());
        const Figure figure = performance.movingFigureAt(performed.time);
        for (const Value& v : reading.values) {
            const auto band = bands.find(v.measure);
            const Status status =
                statusOf(v, band == bands.end() ? std::nullopt : std::optional(band->second));
            samples.push_back({performed.posture, performed.phase,
                               std::string(v.view == View::Both ? ofPair(reading) : viewName(v.view)), v,
                               trueMeasure(v.measure, figure, performed.lead, performed.heading), status,
                               reading.phase.time - performed.time});
        }
    }
    return samples;
}

std::vector<PhaseSample> phaseSamplesOf(const Performance& performance,
                                        const std::vector<MeasuredPhase>& phases,
                                        const PairViews& ofPair = {})
{
    std::vector<PhaseSample> samples;
    const std::vector<FloorEvent> events = floorEvents(performance);
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const PerformedPhase& performed = performance.phases()[i];
        if (phases[i].whole.empty() || performed.begin <= 0) continue;
        const WholeTruth truth = wholeTruth(performance, performed, events);
        for (const PhaseValue& v : phases[i].whole)
            if (const auto t = truth[static_cast<std::size_t>(v.measure)])
                samples.push_back({performed.posture, performed.phase,
                                   std::string(ofPair ? ofPair(phases[i]) : v.view), v, *t});
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
    const Camera camera = cameraFor(performance, clipRequestOf(c));
    out.azimuthError = wrapDeg(clip->camera.azimuth - azimuthFrom(camera, performance.figureAt(0).landmark));
    out.samples = samplesOf(data, c, performance, clip->phases);
    out.phaseSamples = phaseSamplesOf(performance, clip->phases);
    out.reading = std::make_shared<const ClipReading>(std::move(*clip));
    return out;
}

} // namespace

std::filesystem::path keptTrack(const ShippedData& data, const ValidationCase& c,
                                const NetworkChoice& networks, const std::filesystem::path& cache)
{
    return cache /
           (caseName(data, c) + "-" + networks.name() + "-" + std::to_string(kExtractionEdition) + ".json");
}

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

Result<CaseOutcome> runAnalyticCase(const LabData& data, const ValidationCase& c)
{
    const auto performance = performanceOf(data, c);
    if (!performance) return performance.error();
    const ClipRequest request = clipRequestOf(c);
    const Track track =
        conventionalTrack(*performance, request, data.tables.offsets, clipTimes(*performance, request));
    return measuredCase(data, c, *performance,
                        withNoise(track, bodyPixels(*performance, request),
                                  c.seed + static_cast<std::uint32_t>(c.view.size()), *data.errors));
}

Result<CaseOutcome> pairOutcome(const ShippedData& data, const CaseOutcome& first, const CaseOutcome& second,
                                bool onlyTriangulated)
{
    const auto performance = performanceOf(data, first.request);
    if (!performance) return performance.error();
    auto pair = measureTogether(*first.reading, *second.reading, data.tables);
    if (!pair) return pair.error();
    const std::vector<MeasuredPhase>& phases = onlyTriangulated ? pair->triangulated : pair->phases;
    CaseOutcome out{first.request, {}, {}, std::min(first.seenShare, second.seenShare), 0, {}, {}};
    const PairViews views = [&](const MeasuredPhase& p) {
        return pair->measurer->viewsOf(first.reading->priorAt(p.phase.time));
    };
    out.samples = samplesOf(data, first.request, *performance, phases, views);
    out.phaseSamples = phaseSamplesOf(*performance, phases, views);
    return out;
}

double ValidationSample::error() const
{
    const double difference = value.value - truth;
    return measureInfo(value.measure).unit == Unit::Degree ? wrapDeg(difference) : difference;
}

} // namespace jl
