#include "app/jobs/bundle_intake.h"
#include "app/jobs/bundle_choices.h"
#include "draw/track_film.h"

namespace jl
{
namespace
{

QString q(const std::string& text)
{
    return QString::fromStdString(text);
}

Result<Done> fetchClip(const ZipReader& zip, const ReviewBundle& bundle, BundleRole role,
                       const std::string& file, const Progress& progress)
{
    if (const auto video = bundle.videos.find(role); video != bundle.videos.end())
        return zip.unpack(video->second, file, progress);
    return writeTrackFilm(clipOf(bundle.request, role)->track, Theme::paper(), file, progress);
}

/// One clip of a bundle in the library.
Result<qint64> addClip(Library& library, const UnpackedBundle& unpacked, BundleRole role, qint64 student)
{
    const ReviewClip& clip = *clipOf(unpacked.bundle.request, role);
    ClipRow row;
    row.title = q(clip.source.empty() ? unpacked.bundle.title : clip.source);
    if (role == BundleRole::Reference) {
        row.reference = true;
        row.performerHeight = clip.profile.height;
    } else {
        row.studentId = student;
    }
    auto id = library.addClip(q(unpacked.clips.at(role)), row);
    if (!id) return id;
    auto saved = library.saveTrack(*id, clip.track);
    if (saved && !clip.known.empty()) saved = library.setKnowledge(*id, clip.known);
    return saved ? id : Result<qint64>(saved.error());
}

Result<qint64> addStudent(Library& library, const ReviewBundle& bundle)
{
    const ReviewClip& clip = bundle.request.student;
    StudentRow row;
    row.name = q(bundle.studentName.empty() ? bundle.title : bundle.studentName);
    row.height = clip.profile.height;
    row.footLength = clip.profile.footLength;
    row.level = q(bundle.request.level);
    row.bodyLimits = clip.limits;
    return library.addStudent(row);
}

/// What was decided and seen in the review.
Result<Done> addDecisions(Library& library, qint64 review, const ReviewBundle& bundle)
{
    auto done = library.setBrought(review, historyJson(bundle.request));
    for (const BundleChoice& c : bundle.choices)
        if (done) done = library.choose(review, q(c.fault), slipChoice(c));
    for (const OwnFinding& f : bundle.request.own)
        if (done) done = library.addOwnFinding(review, f);
    for (const auto& [fault, cause] : bundle.request.memory.hung)
        if (done) done = library.fileUnder(review, q(fault), q(cause));
    return done;
}

/// Its student, clips, review and decisions, one change after the other; the clip's number.
Result<qint64> takeIn(Library& library, const UnpackedBundle& unpacked)
{
    const ReviewRequest& request = unpacked.bundle.request;
    const auto student = addStudent(library, unpacked.bundle);
    if (!student) return student.error();
    ReviewRow row;
    const auto clip = addClip(library, unpacked, BundleRole::Student, *student);
    if (!clip) return clip.error();
    row.clipId = *clip;
    const auto further = [&](BundleRole role, std::optional<qint64>& place) -> Result<Done> {
        if (!clipOf(request, role)) return Done{};
        const auto id = addClip(library, unpacked, role, *student);
        if (!id) return id.error();
        place = *id;
        return Done{};
    };
    auto done = further(BundleRole::Second, row.secondId);
    if (done) done = further(BundleRole::Reference, row.referenceId);
    if (!done) return done.error();
    row.form = q(request.form);
    row.school = q(request.school);
    const std::string_view by = yardstickName(request.yardstick);
    row.yardstick = QString::fromUtf8(by.data(), static_cast<qsizetype>(by.size()));
    const auto made = library.reviewOf(row);
    if (!made) return made.error();
    row.id = made->id;
    done = library.updateReview(row);
    if (done) done = addDecisions(library, row.id, unpacked.bundle);
    if (!done) return done.error();
    return *clip;
}

} // namespace

Result<UnpackedBundle> unpackBundle(const std::string& file, const std::string& folder,
                                    const Progress& progress)
{
    const auto zip = ZipReader::open(file);
    if (!zip) return zip.error();
    auto bundle = readBundle(*zip);
    if (!bundle) return bundle.error();
    UnpackedBundle unpacked{std::move(*bundle), {}};
    std::vector<BundleRole> roles;
    for (const BundleRole role : kBundleRoles)
        if (clipOf(unpacked.bundle.request, role)) roles.push_back(role);
    for (std::size_t i = 0; i < roles.size(); ++i) {
        const std::string clip = folder + "/" + std::string(bundleRoleName(roles[i])) + ".mp4";
        const auto fetched = fetchClip(*zip, unpacked.bundle, roles[i], clip, [&](double share) {
            return !progress ||
                   progress((static_cast<double>(i) + share) / static_cast<double>(roles.size()));
        });
        if (!fetched) return fetched.error();
        unpacked.clips[roles[i]] = clip;
    }
    return unpacked;
}

Result<qint64> takeOver(Library& library, const UnpackedBundle& unpacked)
{
    qint64 clip = 0;
    const auto done = library.inOneStep([&]() -> Result<Done> {
        auto taken = takeIn(library, unpacked);
        if (!taken) return taken.error();
        clip = *taken;
        return Done{};
    });
    if (!done) return done.error();
    return clip;
}

} // namespace jl
