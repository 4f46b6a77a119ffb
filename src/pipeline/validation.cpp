#include "pipeline/validation.h"
#include "base/angles.h"
#include "exchange/track_file.h"
#include "performer/truth.h"
#include "pipeline/clip_source.h"
#include "review/review.h"
#include <algorithm>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>
#include <random>
#include <unistd.h>

namespace jl
{

namespace
{
const char* const kForm = "sparrow-tail";
constexpr std::size_t kOrdinaryBodies = 6; ///< they come first; those with limits or unusual sizes follow
const char* const kSchool = "upright-broad";
} // namespace

std::vector<ValidationCase> quickCases(const ShippedData& data, std::uint32_t seed, int count)
{
    std::mt19937 random(seed);
    const auto pick = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
    std::vector<ValidationCase> cases;
    const char* views[] = {"side", "front", "side", "front", "side", "behind", "front", "side"};
    for (int i = 0; i < count; ++i) {
        ValidationCase c;
        c.view = views[i % std::size(views)];
        c.lead = pick(2) ? Side::Right : Side::Left;
        // A side camera stands on either side, so that the front leg is now the near, now the far one.
        if (c.view == "side" && pick(2)) c.azimuthShift = 180;
        c.body = pick(std::min<std::size_t>(kOrdinaryBodies, data.bodies.size()));
        c.seed = static_cast<std::uint32_t>(random() % 100000u + 1);
        if (pick(2)) {
            // Faults of the measures that are read from clips.
            constexpr std::array ids{"knee-past-toe", "knee-caves-lead", "stance-short",
                                     "one-line",      "lean-forward",    "weight-short"};
            const char* id = ids[pick(ids.size())];
            const FaultKind& kind = *std::find_if(faultKinds().begin(), faultKinds().end(),
                                                  [&](const FaultKind& k) { return k.id == id; });
            c.faults.push_back(
                {std::string(kind.id), kind.usual * (0.8 + 0.1 * static_cast<double>(pick(6))), ""});
        }
        cases.push_back(std::move(c));
    }
    return cases;
}

ClipRequest clipRequestOf(const ValidationCase& c)
{
    ClipRequest clip;
    clip.camera = *cameraPlace(c.view, c.seed);
    clip.camera.azimuth = wrapDeg(clip.camera.azimuth + c.azimuthShift);
    clip.framesPerSecond = 15;
    clip.seed = c.seed;
    clip.hall = halls()[c.seed % halls().size()].id;
    return clip;
}

Result<Performance> performanceOf(const ShippedData& data, const ValidationCase& c)
{
    PerformanceRequest request;
    request.lead = c.lead;
    request.body = data.bodies[c.body];
    request.seed = c.seed;
    request.faults = c.faults;
    return Performance::create(data.standards, request);
}

namespace
{

/// Names a case's cached track by everything that decides its pictures.
std::string cacheName(const ShippedData& data, const ValidationCase& c, const NetworkChoice& networks)
{
    std::string name = c.view + (c.lead == Side::Left ? "-L" : "-R") + "-" +
                       std::to_string(static_cast<int>(c.azimuthShift)) + "-" + data.bodies[c.body].id + "-" +
                       std::to_string(c.seed) + "-" + networks.name();
    char size[32];
    for (const FaultRequest& f : c.faults) {
        std::snprintf(size, sizeof size, "-%.4f", f.size);
        name += "-" + f.id + size;
    }
    return name + "-" LANTERN_VERSION ".json";
}

Result<Track> renderedTrack(const ShippedData& data, const ValidationCase& c, const Performance& performance,
                            const NetworkChoice& networks, const std::filesystem::path& cache)
{
    const auto kept = cache / cacheName(data, c, networks);
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

} // namespace

Result<CaseOutcome> runCase(const ShippedData& data, const ValidationCase& c, const NetworkChoice& networks,
                            const std::filesystem::path& cache)
{
    const auto performance = performanceOf(data, c);
    if (!performance) return performance.error();
    auto track = renderedTrack(data, c, *performance, networks, cache);
    if (!track) return track.error();
    const auto models = data.models(kForm, kSchool, c.lead);
    if (!models) return models.error();
    PersonProfile profile;
    if (c.heightKnown) profile.height = performance->body().height;
    const auto clip = readClip(*track, *models, profile, data.tables);
    if (!clip) return clip.error();

    CaseOutcome out{c, {}, track->seenShare(), 0, std::move(*track)};
    out.azimuthError = wrapDeg(clip->camera.azimuth - clipRequestOf(c).camera.azimuth);
    const SchoolStandard& school = *data.standards.school(kSchool);
    for (std::size_t i = 0; i < clip->phases.size(); ++i) {
        const PhaseReading& reading = clip->phases[i];
        const PerformedPhase& performed = performance->phases()[i];
        const Bands bands = data.standards.bandsFor(data.standards.phase(performed.posture, performed.phase),
                                                    school, performance->body().footLength());
        const Figure figure = performance->figureAt(performed.time);
        for (const Value& v : reading.values) {
            const auto band = bands.find(v.measure);
            const Status status =
                statusOf(v, band == bands.end() ? std::nullopt : std::optional(band->second));
            out.samples.push_back({performed.posture, performed.phase, std::string(viewName(v.view)), v,
                                   trueMeasure(v.measure, figure, performed.lead, performed.heading),
                                   status != Status::Unseen, band != bands.end(),
                                   reading.phase.time - performed.time});
        }
    }
    return out;
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
        e.error.push_back(s->value.value - s->truth);
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
