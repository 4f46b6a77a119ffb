#include "bundle/review_bundle.h"
#include "base/day.h"
#include "exchange/hint_files.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "exchange/track_file.h"
#include <algorithm>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

using Json = nlohmann::json;

constexpr int kVersion = 1;
constexpr const char* kKind = "jolly-lantern-bundle";
constexpr const char *kHead = "bundle.json", *kReview = "review.json", *kHistory = "history.json";
constexpr std::array<std::string_view, 4> kVideoEndings{".mp4", ".mov", ".mkv", ".webm"};

std::string trackName(BundleRole role)
{
    return "tracks/" + std::string(bundleRoleName(role)) + ".json";
}

Error broken(const std::string& file, const std::string& what)
{
    return {Error::Kind::BadInput, "the bundle cannot be read: " + what, file,
            "Ask for the bundle again, from a program of this version."};
}

ReviewClip& makeClip(ReviewRequest& r, BundleRole role)
{
    return role == BundleRole::Student  ? r.student
           : role == BundleRole::Second ? r.second.emplace()
                                        : r.reference.emplace();
}

Json clipJson(const ReviewClip& clip)
{
    return {{"profile", profileJson({clip.profile, clip.limits})},
            {"known", Json::parse(knowledgeJson(clip.known))},
            {"source", clip.source}};
}

Json memoryJson(const TeachingMemory& memory)
{
    Json faults = Json::object(), filed = Json::array();
    for (const auto& [fault, m] : memory.faults)
        faults[fault] = {{"lessons", m.lessons}, {"parked", m.parked}, {"returned", m.returned}};
    for (const auto& [link, times] : memory.filed)
        filed.push_back({{"fault", link.first}, {"cause", link.second}, {"times", times}});
    return {{"faults", faults}, {"hung", memory.hung}, {"filed", filed}};
}

TeachingMemory memoryFrom(const Json& j)
{
    TeachingMemory memory;
    for (const auto& item : j.at("faults").items())
        memory.faults[item.key()] = {item.value().at("lessons").get<int>(),
                                     item.value().at("parked").get<bool>(),
                                     item.value().at("returned").get<bool>()};
    memory.hung = j.at("hung").get<std::map<std::string, std::string>>();
    for (const Json& f : j.at("filed"))
        memory.filed[{f.at("fault").get<std::string>(), f.at("cause").get<std::string>()}] =
            f.at("times").get<int>();
    return memory;
}

Json ownJson(const std::vector<OwnFinding>& own)
{
    Json all = Json::array();
    for (const OwnFinding& f : own)
        all.push_back({{"time", f.time},
                       {"title", f.title},
                       {"cue", f.cue},
                       {"drill", f.drill},
                       {"measure", f.measure ? Json(measureInfo(*f.measure).key) : Json(nullptr)}});
    return all;
}

std::vector<OwnFinding> ownFrom(const Json& j)
{
    std::vector<OwnFinding> all;
    for (const Json& f : j)
        all.push_back({f.at("time").get<double>(), f.at("title").get<std::string>(),
                       f.at("cue").get<std::string>(), f.at("drill").get<std::string>(),
                       f.at("measure").is_string() ? measureFromKey(f.at("measure").get<std::string>())
                                                   : std::nullopt});
    return all;
}

Json choicesJson(const std::vector<BundleChoice>& choices)
{
    Json all = Json::array();
    for (const BundleChoice& c : choices)
        all.push_back({{"fault", c.fault},
                       {"decision", c.decision},
                       {"reason", c.reason},
                       {"cue", c.cue},
                       {"due", c.due ? Json(dayText(*c.due)) : Json(nullptr)}});
    return all;
}

Json headOf(const ReviewBundle& bundle)
{
    const ReviewRequest& r = bundle.request;
    Json clips = Json::object(), videos = Json::object();
    for (const BundleRole role : kBundleRoles)
        if (const ReviewClip* clip = clipOf(r, role)) clips[bundleRoleName(role)] = clipJson(*clip);
    for (const auto& [role, file] : bundle.videos)
        videos[bundleRoleName(role)] =
            "video/" + std::string(bundleRoleName(role)) + std::filesystem::path(file).extension().string();
    return {{"kind", kKind},
            {"version", kVersion},
            {"made", dayText(bundle.made)},
            {"student", bundle.studentName},
            {"title", bundle.title},
            {"form", r.form},
            {"school", r.school},
            {"level", r.level},
            {"by", yardstickName(r.yardstick)},
            {"clips", clips},
            {"videos", videos},
            {"own", ownJson(r.own)},
            {"choices", choicesJson(bundle.choices)}};
}

/// When a parked correction returns; without the entry, as in bundles from before it, at no set day.
std::optional<std::chrono::sys_days> dueFrom(const Json& choice)
{
    const auto entry = choice.find("due");
    if (entry == choice.end() || entry->is_null()) return {};
    const auto day = dayFrom(entry->get<std::string>());
    if (!day) throw std::runtime_error("due is no day");
    return day;
}

/// Fills in all of the head but the clips. Throws what() of what is missing or misshapen.
void takeHead(ReviewBundle& bundle, const Json& j)
{
    ReviewRequest& r = bundle.request;
    bundle.studentName = j.at("student").get<std::string>();
    bundle.title = j.at("title").get<std::string>();
    const auto made = dayFrom(j.at("made").get<std::string>());
    if (!made) throw std::runtime_error("made is no day");
    bundle.made = *made;
    r.form = j.at("form").get<std::string>();
    r.school = j.at("school").get<std::string>();
    r.level = j.at("level").get<std::string>();
    const auto by = yardstickFromName(j.at("by").get<std::string>());
    if (!by) throw std::runtime_error("by is no yardstick");
    r.yardstick = *by;
    r.own = ownFrom(j.at("own"));
    for (const Json& c : j.at("choices"))
        bundle.choices.push_back({c.at("fault").get<std::string>(), c.at("decision").get<std::string>(),
                                  c.at("reason").get<std::string>(), c.at("cue").get<std::string>(),
                                  dueFrom(c)});
}

Result<Done> takeClip(ReviewBundle& bundle, BundleRole role, const Json& j, const ZipReader& zip)
{
    ReviewClip& clip = makeClip(bundle.request, role);
    const auto profile = profileFromJson(j.at("profile"), zip.path());
    if (!profile) return profile.error();
    clip.profile = profile->body;
    clip.limits = profile->limits;
    auto known = knowledgeFrom(j.at("known").dump(), zip.path());
    if (!known) return known.error();
    clip.known = std::move(*known);
    clip.source = j.at("source").get<std::string>();
    const auto text = zip.text(trackName(role));
    if (!text) return text.error();
    auto track = trackFromJson(*text, zip.path() + ": " + trackName(role));
    if (!track) return track.error();
    clip.track = std::move(*track);
    return Done{};
}

Result<Done> takeClips(ReviewBundle& bundle, const Json& head, const ZipReader& zip)
{
    const Json& clips = head.at("clips");
    if (!clips.contains("student")) throw std::runtime_error("it has no student's clip");
    for (const BundleRole role : kBundleRoles) {
        const auto clip = clips.find(bundleRoleName(role));
        if (clip == clips.end()) continue;
        const auto taken = takeClip(bundle, role, *clip, zip);
        if (!taken) return taken.error();
    }
    for (const BundleRole role : kBundleRoles)
        if (const auto video = head.at("videos").find(bundleRoleName(role));
            video != head.at("videos").end()) {
            const auto name = video->get<std::string>();
            if (!zip.contains(name)) return broken(zip.path(), "it lacks \"" + name + "\"");
            bundle.videos[role] = name;
        }
    return Done{};
}

/// The file of a bundle that is none of those that bundles have; none: all are.
std::optional<std::string> strangeFile(const ZipReader& zip)
{
    std::vector<std::string> known{kHead, kReview, kHistory};
    for (const BundleRole role : kBundleRoles) {
        known.push_back(trackName(role));
        for (const std::string_view ending : kVideoEndings)
            known.push_back("video/" + std::string(bundleRoleName(role)) + std::string(ending));
    }
    for (const ZipReader::Entry& e : zip.entries())
        if (std::find(known.begin(), known.end(), e.name) == known.end()) return e.name;
    return std::nullopt;
}

Result<Done> addVideos(ZipWriter& zip, const ReviewBundle& bundle, const Json& head, const std::string& file)
{
    for (const auto& [role, video] : bundle.videos) {
        const std::string ending = std::filesystem::path(video).extension().string();
        if (std::find(kVideoEndings.begin(), kVideoEndings.end(), ending) == kVideoEndings.end())
            return Error{Error::Kind::WrongUse,
                         "a bundle cannot hold a video that ends with \"" + ending + "\"", file,
                         "Leave the video out, or name it with its usual ending."};
        const auto added = zip.addFile(head.at("videos").at(bundleRoleName(role)).get<std::string>(), video);
        if (!added) return added.error();
    }
    return Done{};
}

} // namespace

const ReviewClip* clipOf(const ReviewRequest& request, BundleRole role)
{
    switch (role) {
    case BundleRole::Student:
        return &request.student;
    case BundleRole::Second:
        return request.second ? &*request.second : nullptr;
    case BundleRole::Reference:
        return request.reference ? &*request.reference : nullptr;
    }
    return nullptr;
}

std::string historyJson(const ReviewRequest& request)
{
    Json earlier = Json::array();
    for (const ReviewRecord& record : request.earlier)
        earlier.push_back(Json::parse(recordJson(record)));
    Json j{{"earlier", std::move(earlier)},
           {"memory", memoryJson(request.memory)},
           {"side", request.side ? Json(*request.side == Side::Left ? "L" : "R") : Json(nullptr)}};
    if (request.referenceCut) j["reference_cut"] = Json::parse(cutJson(*request.referenceCut));
    return j.dump();
}

Result<Done> takeHistory(ReviewRequest& request, const std::string& history, const std::string& where)
{
    try {
        const Json j = Json::parse(history);
        for (const Json& one : j.at("earlier")) {
            auto record = recordFromJson(one.dump(), where);
            if (!record) return record.error();
            request.earlier.push_back(std::move(*record));
        }
        request.memory = memoryFrom(j.at("memory"));
        if (j.at("side").is_string()) request.side = j.at("side") == "L" ? Side::Left : Side::Right;
        if (const auto text = j.find("reference_cut"); text != j.end()) {
            auto cut = cutFromJson(text->dump(), where);
            if (!cut) return cut.error();
            request.referenceCut = std::move(*cut);
        }
        return Done{};
    } catch (const std::exception& e) {
        return broken(where, e.what());
    }
}

std::string_view bundleRoleName(BundleRole role)
{
    constexpr std::array<std::string_view, 3> names{"student", "second", "reference"};
    return names[static_cast<std::size_t>(role)];
}

bool namesBundle(const std::string& file)
{
    return std::filesystem::path(file).extension() == ".zip";
}

Result<Done> writeBundle(const ReviewBundle& bundle, const std::string& file, const Progress& progress)
{
    auto zip = ZipWriter::create(file);
    if (!zip) return zip.error();
    const Json head = headOf(bundle);
    auto done = zip->add(kHead, head.dump(1));
    if (done) done = zip->add(kReview, bundle.review);
    for (const BundleRole role : kBundleRoles)
        if (const ReviewClip* clip = clipOf(bundle.request, role); clip && done)
            done = zip->add(trackName(role), trackToJson(clip->track));
    if (done) done = zip->add(kHistory, historyJson(bundle.request));
    if (done) done = addVideos(*zip, bundle, head, file);
    if (!done) return done.error();
    return zip->finish(progress);
}

Result<ReviewBundle> readBundle(const ZipReader& zip)
{
    if (const auto strange = strangeFile(zip))
        return broken(zip.path(), "\"" + *strange + "\" is nothing that a bundle has");
    const auto text = zip.text(kHead);
    if (!text) return text.error();
    try {
        const Json head = Json::parse(*text);
        if (head.at("kind") != kKind) return broken(zip.path(), "it is another kind of zip");
        if (head.at("version") != kVersion)
            return broken(zip.path(), "it is of version " + head.at("version").dump() +
                                          ", and this program reads version " + std::to_string(kVersion));
        ReviewBundle bundle;
        takeHead(bundle, head);
        const auto clips = takeClips(bundle, head, zip);
        if (!clips) return clips.error();
        const auto history = zip.text(kHistory);
        if (!history) return history.error();
        const auto taken = takeHistory(bundle.request, *history, zip.path() + ": " + kHistory);
        if (!taken) return taken.error();
        auto review = zip.text(kReview);
        if (!review) return review.error();
        bundle.review = std::move(*review);
        const auto record = recordFromJson(bundle.review, zip.path() + ": " + kReview);
        if (!record) return record.error();
        return bundle;
    } catch (const std::exception& e) {
        return broken(zip.path(), e.what());
    }
}

Result<std::vector<std::string>> checkBundle(const std::string& file)
{
    const auto zip = ZipReader::open(file);
    if (!zip) return zip.error();
    const auto bundle = readBundle(*zip);
    if (!bundle) return bundle.error();
    std::vector<std::string> lines;
    for (const ZipReader::Entry& e : zip->entries()) {
        const auto whole = zip->verify(e.name);
        if (!whole) return whole.error();
        lines.push_back(e.name + ", " + std::to_string(e.bytes) + " bytes, whole");
    }
    return lines;
}

} // namespace jl
