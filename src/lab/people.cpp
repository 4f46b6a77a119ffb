#include "lab/people.h"
#include "base/angles.h"
#include "base/json_file.h"
#include "exchange/track_file.h"
#include "pipeline/clip_source.h"
#include "pipeline/make_review.h"
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

namespace jl
{
namespace
{

constexpr std::string_view kAll = "all";

/// Reads "knee-past-toe=0.08,lean-forward=10"; "-" is none.
std::vector<std::string> faultsFrom(const std::string& text)
{
    std::vector<std::string> faults;
    for (std::size_t at = 0; text != "-" && at < text.size();) {
        const std::size_t end = std::min(text.find(',', at), text.size());
        faults.push_back(text.substr(at, std::min(text.find('=', at), end) - at));
        at = end + 1;
    }
    return faults;
}

PeopleMoment momentFrom(const nlohmann::json& j)
{
    PeopleMoment moment{j.at("posture"), j.at("phase"), j.at("time"), {}};
    const nlohmann::json &rig = j.at("rig"), &skin = j.at("skin");
    for (const auto& [key, value] : rig.items())
        if (const auto measure = measureFromKey(key)) {
            const double a = value, b = skin.value(key, a);
            moment.truth[*measure] = Band{std::min(a, b), std::max(a, b), 0};
        }
    return moment;
}

Result<PeopleClip> clipFrom(const std::filesystem::path& video)
{
    PeopleClip clip;
    clip.video = video;
    auto truth = video;
    truth.replace_extension(".json");
    if (!std::filesystem::exists(truth)) return clip;
    const auto json = readJson(truth);
    if (!json) return json.error();
    try {
        clip.form = json->at("form");
        clip.side = json->at("side") == "L" ? Side::Left : Side::Right;
        clip.profile.height = json->at("height").get<double>();
        clip.profile.footLength = json->at("foot_length").get<double>();
        clip.faults = faultsFrom(json->at("faults"));
        for (const auto& phase : json->at("phases"))
            clip.moments.push_back(momentFrom(phase));
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("the truth of the clip lacks something: ") + e.what(),
                     truth.string(), "Write form, side, height, foot_length, faults and phases."};
    }
    return clip;
}

Result<Track> keptTrackOf(const PeopleClip& clip, const NetworkChoice& networks,
                          const std::filesystem::path& cache)
{
    std::error_code ignored;
    const auto size = std::filesystem::file_size(clip.video, ignored);
    const auto kept = cache / ("people-" + clip.video.stem().string() + "-" + std::to_string(size) + "-" +
                               networks.name() + "-" + std::to_string(kExtractionEdition) + ".json");
    if (std::filesystem::exists(kept, ignored)) return readTrack(kept);
    std::filesystem::create_directories(cache, ignored);
    auto track = trackOf(clip.video.string(), networks, {});
    if (!track) return track.error();
    if (const auto written = writeTrack(*track, kept); !written) return written.error();
    return track;
}

/// Whether a review says that something else than its form may have been performed: by another form that fits
/// better, or because less than half of it is shown.
bool isDoubted(const Review& review)
{
    const auto shown = std::count_if(review.postures.begin(), review.postures.end(),
                                     [](const auto& p) { return p.status != PostureStatus::NotFilmed; });
    return !review.doubt.empty() || 2 * shown < std::ssize(review.postures);
}

/// Sums what the clips show.
class Sum
{
public:
    explicit Sum(PeopleReport& report) : m_report(report) {}

    void add(const PeopleClip& clip, const FinishedReview& made)
    {
        const auto& phases = made.student.phases;
        for (std::size_t i = 0; i < std::min(phases.size(), clip.moments.size()); ++i) {
            const bool found = phases[i].phase.matched;
            constexpr Seconds near = 0.15;
            m_report.keyMoments.add(found && std::abs(phases[i].phase.time - clip.moments[i].time) <= near);
            if (!found) continue;
            for (const Value& v : phases[i].values)
                addValue(clip.moments[i], v);
        }
        if (clip.faults.empty())
            addClean(clip, made.review);
        else
            for (const std::string& fault : clip.faults)
                m_report.asked[fault].add(isClaimed(made.review, fault));
    }

    void finish()
    {
        for (auto& [key, group] : m_groups)
            if (key != kAll) m_report.rows.push_back(accuracyRow(group));
        m_report.rows.push_back(accuracyRow(m_groups[std::string(kAll)]));
    }

private:
    void addValue(const PeopleMoment& moment, const Value& v)
    {
        const MeasureInfo& info = measureInfo(v.measure);
        const auto error = moment.error(v.measure, v.value);
        if (!error) return;
        ErrorGroup& own = m_groups[std::string(info.key)];
        own.view = kAll;
        own.key = info.key;
        own.unit = info.unit == Unit::Degree ? "deg" : info.unit == Unit::Metre ? "m" : "%";
        ErrorGroup& all = m_groups[std::string(kAll)];
        all.view = all.key = kAll;
        for (ErrorGroup* group : {&own, &all}) {
            if (!v.seen()) {
                ++group->unseen;
                continue;
            }
            // Over all measures together errors count in their uncertainties.
            const double scale = group == &all ? v.u : 1;
            group->error.push_back(*error / scale);
            group->u.push_back(v.u / scale);
            group->certain.push_back(v.isCertain());
        }
    }

    void addClean(const PeopleClip& clip, const Review& review)
    {
        m_report.cleanPostures += static_cast<int>(review.postures.size());
        std::set<std::pair<std::string, std::size_t>> claimed; // once a posture
        for (const Finding& f : review.findings) {
            if (f.severity == Severity::Watch || isTrue(clip, review, f)) continue;
            if (claimed.insert({f.fault, f.posture}).second) ++m_report.falseFaults[f.fault];
        }
    }

    static bool isClaimed(const Review& review, const std::string& fault)
    {
        return std::any_of(review.findings.begin(), review.findings.end(), [&](const Finding& f) {
            return f.fault == fault && f.severity != Severity::Watch;
        });
    }

    /// Whether the true value is out of the band on the finding's side by both definitions.
    static bool isTrue(const PeopleClip& clip, const Review& review, const Finding& f)
    {
        if (!f.measure || !f.band) return false;
        std::size_t index = f.phase;
        for (std::size_t p = 0; p < f.posture; ++p)
            index += review.postures[p].phases.size();
        if (index >= clip.moments.size()) return false;
        const auto truth = clip.moments[index].truth.find(*f.measure);
        if (truth == clip.moments[index].truth.end()) return false;
        return f.value > f.band->high ? truth->second.low > f.band->high : truth->second.high < f.band->low;
    }

    PeopleReport& m_report;
    std::map<std::string, ErrorGroup> m_groups;
};

} // namespace

std::optional<double> PeopleMoment::error(Measure measure, double value) const
{
    const auto found = truth.find(measure);
    return found == truth.end() ? std::nullopt : std::optional(found->second.excess(value));
}

Result<std::vector<PeopleClip>> peopleClips(const std::filesystem::path& folder)
{
    std::vector<std::filesystem::path> videos;
    std::error_code failed;
    for (const auto& file : std::filesystem::directory_iterator(folder, failed))
        if (file.path().extension() == ".mp4") videos.push_back(file.path());
    if (failed || videos.empty())
        return Error{Error::Kind::BadInput, "there are no clips of figures", folder.string(),
                     "Name a folder with NAME.mp4 and NAME.json."};
    std::sort(videos.begin(), videos.end());
    std::vector<PeopleClip> clips;
    for (const auto& video : videos) {
        auto clip = clipFrom(video);
        if (!clip) return clip.error();
        clips.push_back(std::move(*clip));
    }
    return clips;
}

Result<PeopleReport> peopleReport(const ShippedData& data, const std::filesystem::path& folder,
                                  const NetworkChoice& networks, const std::filesystem::path& cache,
                                  const Progress& progress)
{
    const auto clips = peopleClips(folder);
    if (!clips) return clips.error();
    PeopleReport report;
    Sum sum(report);
    for (std::size_t i = 0; i < clips->size(); ++i) {
        const PeopleClip& clip = (*clips)[i];
        if (progress && !progress(static_cast<double>(i) / static_cast<double>(clips->size()))) break;
        ++report.clips;
        auto track = keptTrackOf(clip, networks, cache);
        if (!track) {
            report.failed.push_back(clip.video.stem().string() + ": " + track.error().what);
            continue;
        }
        ReviewRequest request;
        request.student.track = std::move(*track);
        request.student.profile = clip.profile;
        if (!clip.form.empty()) {
            request.form = clip.form;
            request.side = clip.side;
        }
        const auto made = makeReview(data, std::move(request));
        if (clip.form.empty())
            report.otherMotion.add(!made || isDoubted(made->review));
        else if (made)
            sum.add(clip, *made);
        else
            report.failed.push_back(clip.video.stem().string() + ": " + made.error().what);
    }
    if (progress) progress(1);
    sum.finish();
    return report;
}

std::string peopleText(const PeopleReport& r)
{
    std::string text;
    char line[160];
    const auto add = [&](const char* format, auto... values) {
        std::snprintf(line, sizeof line, format, values...);
        text += line;
    };
    add("%d clips, %zu not read\n", r.clips, r.failed.size());
    for (const std::string& f : r.failed)
        text += "  " + f + "\n";
    add("key moments within 0.15 s: %d of %d\n", r.keyMoments.good, r.keyMoments.all);
    add("%-24s %6s %6s %9s %9s %7s %8s %9s\n", "measure", "n", "unseen", "bias", "sd", "2u %", "certain",
        ">3u %");
    for (const AccuracyRow& row : r.rows)
        add("%-24s %6d %6d %9.3f %9.3f %7.1f %8d %9.1f\n", row.key.c_str(), row.n, row.unseen, row.bias,
            row.sd, 100 * row.coverage, row.certain, 100 * row.certainBeyondThree);
    add("clean postures: %d; false faults:", r.cleanPostures);
    for (const auto& [fault, n] : r.falseFaults)
        add(" %s %d", fault.c_str(), n);
    text += r.falseFaults.empty() ? " none\n" : "\n";
    for (const auto& [fault, tally] : r.asked)
        add("asked for %s: claimed in %d of %d\n", fault.c_str(), tally.good, tally.all);
    add("other motion refused or doubted: %d of %d\n", r.otherMotion.good, r.otherMotion.all);
    return text;
}

std::string peopleJson(const PeopleReport& r)
{
    nlohmann::ordered_json j;
    const auto tally = [](const Tally& t) { return nlohmann::ordered_json::array({t.good, t.all}); };
    j["clips"] = r.clips;
    j["failed"] = r.failed;
    j["key_moments"] = tally(r.keyMoments);
    j["rows"] = nlohmann::ordered_json::parse(accuracyJson(r.rows));
    j["clean_postures"] = r.cleanPostures;
    j["false_faults"] = r.falseFaults;
    for (const auto& [fault, t] : r.asked)
        j["asked"][fault] = tally(t);
    j["other_motion"] = tally(r.otherMotion);
    return j.dump();
}

} // namespace jl
