#pragma once
#include "bundle/zip_file.h"
#include "pipeline/make_review.h"
#include "review/slip.h"
#include <array>

namespace jl
{

/// What the instructor did with a proposed correction, as the bundle keeps it.
struct BundleChoice {
    std::string fault;
    std::string decision;                          ///< accepted, parked or set-aside
    std::string reason;                            ///< why it was set aside
    std::string cue;                               ///< in the instructor's own words; empty: as proposed
    std::optional<std::chrono::sys_days> due = {}; ///< when a parked one returns
};

/// One of a review's clips.
enum class BundleRole { Student, Second, Reference };
inline constexpr std::array kBundleRoles{BundleRole::Student, BundleRole::Second, BundleRole::Reference};
std::string_view bundleRoleName(BundleRole role); ///< student, second, reference
/// That clip of a review; null where it has none.
const ReviewClip* clipOf(const ReviewRequest& request, BundleRole role);

/// A review that goes to another instructor: all that it is made from, what was made, and what was decided.
struct ReviewBundle {
    std::string studentName, title; ///< as people read them
    std::chrono::sys_days made;
    ReviewRequest request; ///< with tracks
    std::string review;    ///< the review file (reviewJson())
    std::vector<BundleChoice> choices;
    std::map<BundleRole, std::string>
        videos; ///< files to put in; of a bundle that was read, their names in it
};

/// What a review knows beyond its clips: earlier lessons, what was filed, the side, a reference's cut; as one
/// text, for a library that takes the review over.
std::string historyJson(const ReviewRequest& request);
/// Puts it into a request. An error where the text cannot be read.
Result<Done> takeHistory(ReviewRequest& request, const std::string& history, const std::string& where);

/// Whether a name is that of a bundle.
bool namesBundle(const std::string& file);

/// Writes one zip of open formats (docs/formats.md, Bundle). A video has to be one of its files' kinds: the
/// ending is kept. Never leaves half a file.
Result<Done> writeBundle(const ReviewBundle& bundle, const std::string& file, const Progress& progress = {});

/// Reads a bundle back. Refused: what ZipReader refuses, files that no bundle has, another version, tracks,
/// profiles or choices that cannot be read.
Result<ReviewBundle> readBundle(const ZipReader& zip);

/// Whether every file of a bundle is whole and can be read; what it holds, a line each.
Result<std::vector<std::string>> checkBundle(const std::string& file);

} // namespace jl
