#include "pipeline/validation.h"
#include "base/angles.h"
#include "exchange/track_file.h"
#include "performer/truth.h"
#include "pipeline/clip_source.h"
#include "pipeline/network_noise.h"
#include "review/review.h"
#include <algorithm>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>
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

Result<CaseOutcome> measuredCase(const ShippedData& data, const ValidationCase& c,
                                 const Performance& performance, Track track)
{
    const auto models = data.models(c.form, c.school, c.lead);
    if (!models) return models.error();
    PersonProfile profile;
    if (c.heightKnown) profile.height = performance.body().height;
    auto clip = readClip(track, *models, profile, data.tables);
    if (!clip) return clip.error();

    CaseOutcome out{c, {}, track.seenShare(), 0, std::move(track), {}};
    out.azimuthError = wrapDeg(clip->camera.azimuth - clipRequestOf(c).camera.azimuth);
    out.samples = samplesOf(data, c, performance, clip->phases);
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
    CaseOutcome out{c, {}, track->seenShare(), 0, {}, {}};
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
    CaseOutcome out{first.request, {}, std::min(first.seenShare, second.seenShare), 0, {}, {}};
    out.samples = samplesOf(data, first.request, *performance, pair->phases);
    return out;
}

double ValidationSample::error() const
{
    const double difference = value.value - truth;
    return measureInfo(value.measure).unit == Unit::Degrees ? wrapDeg(difference) : difference;
}

std::vector<const ValidationSample*> tellingSamples(const std::vector<CaseOutcome>& outcomes)
{
    std::array<bool, kMeasureCount> judged{};
    for (const CaseOutcome& o : outcomes)
        for (const ValidationSample& s : o.samples)
            judged[static_cast<std::size_t>(s.value.measure)] |= s.judged;
    std::vector<const ValidationSample*> telling;
    for (const CaseOutcome& o : outcomes)
        for (const ValidationSample& s : o.samples)
            if (s.judged || !judged[static_cast<std::size_t>(s.value.measure)]) telling.push_back(&s);
    return telling;
}

std::vector<AccuracyRow> accuracyRows(const std::vector<CaseOutcome>& outcomes)
{
    struct Errors {
        std::vector<double> error, u;
        int unseen = 0;
    };
    std::map<std::pair<std::string, Measure>, Errors> groups;
    for (const ValidationSample* s : tellingSamples(outcomes)) {
        Errors& e = groups[{s->view, s->value.measure}];
        if (!s->reported) {
            ++e.unseen;
            continue;
        }
        e.error.push_back(s->error());
        e.u.push_back(s->value.u);
    }
    std::vector<AccuracyRow> rows;
    for (auto& [key, e] : groups) {
        AccuracyRow row;
        row.view = key.first;
        row.measure = key.second;
        row.n = static_cast<int>(e.error.size());
        row.unseen = e.unseen;
        double sum = 0, squares = 0, uSum = 0;
        int covered = 0;
        std::vector<double> absolute;
        for (std::size_t i = 0; i < e.error.size(); ++i) {
            sum += e.error[i];
            squares += e.error[i] * e.error[i];
            uSum += e.u[i];
            covered += std::abs(e.error[i]) <= 2 * e.u[i];
            absolute.push_back(std::abs(e.error[i]));
        }
        if (row.n > 0) {
            row.bias = sum / row.n;
            row.sd = std::sqrt(std::max(0.0, squares / row.n - row.bias * row.bias));
            row.meanU = uSum / row.n;
            row.coverage = static_cast<double>(covered) / row.n;
            std::sort(absolute.begin(), absolute.end());
            row.p90 = absolute[static_cast<std::size_t>(0.9 * (row.n - 1) + 0.5)];
        }
        rows.push_back(row);
    }
    return rows;
}

std::string accuracyText(const std::vector<AccuracyRow>& rows)
{
    std::string text = "view       measure               unit      n  unseen     bias       sd      p90   "
                       "mean u  within 2u\n";
    char line[200];
    for (const AccuracyRow& r : rows) {
        const MeasureInfo& info = measureInfo(r.measure);
        const bool metres = info.unit == Unit::Metres;
        const double k = metres ? 100 : 1;
        const char* unit = metres ? "cm" : info.unit == Unit::Degrees ? "deg" : "%";
        if (r.n == 0)
            std::snprintf(line, sizeof line, "%-10s %-21s %-4s %6d  %6d\n", r.view.c_str(),
                          std::string(info.key).c_str(), unit, r.n, r.unseen);
        else
            std::snprintf(line, sizeof line, "%-10s %-21s %-4s %6d  %6d %+8.2f %8.2f %8.2f %8.2f %8.1f %%\n",
                          r.view.c_str(), std::string(info.key).c_str(), unit, r.n, r.unseen, k * r.bias,
                          k * r.sd, k * r.p90, k * r.meanU, 100 * r.coverage);
        text += line;
    }
    return text;
}

std::string accuracyJson(const std::vector<AccuracyRow>& rows)
{
    nlohmann::ordered_json j = nlohmann::ordered_json::array();
    for (const AccuracyRow& r : rows) {
        const Unit unit = measureInfo(r.measure).unit;
        nlohmann::ordered_json row{{"view", r.view},
                                   {"measure", measureInfo(r.measure).key},
                                   {"unit", unit == Unit::Metres    ? "m"
                                            : unit == Unit::Degrees ? "deg"
                                                                    : "%"},
                                   {"n", r.n},
                                   {"unseen", r.unseen}};
        if (r.n > 0) {
            row["bias"] = r.bias;
            row["sd"] = r.sd;
            row["p90"] = r.p90;
            row["mean_u"] = r.meanU;
            row["coverage_2u"] = r.coverage;
        }
        j.push_back(std::move(row));
    }
    return j.dump(1);
}

} // namespace jl
