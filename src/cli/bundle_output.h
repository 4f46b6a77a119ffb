#pragma once
#include "bundle/review_bundle.h"
#include "cli/commands.h"

namespace jl::cli
{

/// The bundle that a review is written to.
struct BundleOutput {
    std::string file;
    bool video = false; ///< with the clips' videos
};

void addBundleOutput(CLI::App& command, BundleOutput& output);

/// Whether the file has the ending of a bundle, and where a video is wanted, each clip is one.
Result<Done> checkBundleOutput(const BundleOutput& output, const ReviewRequest& request);

/// Writes the bundle of a review that was made from the request; `name` is the student's.
Result<Done> writeBundleOf(const BundleOutput& output, ReviewRequest request, const std::string& review,
                           const std::string& name);

/// Gives the review file of a bundle, and says on stderr whether this program makes the same from its tracks.
Result<std::string> reviewOfBundle(const ShippedData& data, const std::string& file);

} // namespace jl::cli
