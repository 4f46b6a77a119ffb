#include "cli/bundle_output.h"
#include "base/day.h"
#include "exchange/review_file.h"
#include "pipeline/clip_source.h"
#include <cstdio>

namespace jl::cli
{
namespace
{

/// The clips of a request that are videos.
std::map<BundleRole, std::string> videosOf(const ReviewRequest& request)
{
    std::map<BundleRole, std::string> videos;
    const auto add = [&](BundleRole role, const ReviewClip& clip) {
        if (!namesTrack(clip.source)) videos[role] = clip.source;
    };
    add(BundleRole::Student, request.student);
    if (request.second) add(BundleRole::Second, *request.second);
    if (request.reference) add(BundleRole::Reference, *request.reference);
    return videos;
}

} // namespace

void addBundleOutput(CLI::App& command, BundleOutput& output)
{
    command.add_option(
        "--bundle", output.file,
        "The review with all that it is made from, to write as one zip for another instructor");
    command.add_flag("--bundle-video", output.video, "Put the videos into the bundle too");
}

Result<Done> checkBundleOutput(const BundleOutput& output, const ReviewRequest& request)
{
    if (output.file.empty()) return Done{};
    if (!namesBundle(output.file))
        return Error{Error::Kind::WrongUse, "a bundle is a zip", output.file,
                     "Let the file's name end with .zip."};
    if (output.video && videosOf(request).empty())
        return Error{Error::Kind::WrongUse, "there is no video to put into the bundle", output.file,
                     "Name clips instead of tracks, or leave out --bundle-video."};
    return Done{};
}

Result<Done> writeBundleOf(const BundleOutput& output, ReviewRequest request, const std::string& review,
                           const std::string& name)
{
    if (output.file.empty()) return Done{};
    ReviewBundle bundle;
    bundle.studentName = name;
    bundle.title = std::filesystem::path(request.student.source).stem().string();
    bundle.made = today();
    if (output.video) bundle.videos = videosOf(request);
    // Where the clips lay on this machine is nobody else's business.
    const auto strip = [](ReviewClip& clip) {
        clip.source = std::filesystem::path(clip.source).filename().string();
    };
    strip(request.student);
    if (request.second) strip(*request.second);
    if (request.reference) strip(*request.reference);
    bundle.request = std::move(request);
    bundle.review = review;
    return writeBundle(bundle, output.file, progressOnStderr("writing the bundle"));
}

Result<std::string> reviewOfBundle(const ShippedData& data, const std::string& file)
{
    const auto zip = ZipReader::open(file);
    if (!zip) return zip.error();
    auto bundle = readBundle(*zip);
    if (!bundle) return bundle.error();
    const auto finished = makeReview(data, std::move(bundle->request));
    if (!finished) {
        std::fprintf(stderr, "This program cannot make the review again: %s\n",
                     finished.error().message().c_str());
        return std::move(bundle->review);
    }
    const std::string again =
        reviewJson(finished->review, finished->progress ? &*finished->progress : nullptr);
    std::fprintf(stderr,
                 again == bundle->review
                     ? "Made again from the tracks of the bundle, the review is the same.\n"
                     : "This program judges the tracks of the bundle differently; what you get is the "
                       "review as it was sent.\n");
    return std::move(bundle->review);
}

} // namespace jl::cli
