#pragma once
#include "bundle/review_bundle.h"
#include "library/library.h"

namespace jl
{

/// A bundle with its clips as files in a folder: its videos, or films of the bodies drawn on paper where it
/// has none.
struct UnpackedBundle {
    ReviewBundle bundle;
    std::map<BundleRole, std::string> clips;
};

/// Reads a bundle and unpacks its clips into a folder, under names of this program's own. For any thread.
Result<UnpackedBundle> unpackBundle(const std::string& file, const std::string& folder,
                                    const Progress& progress = {});

/// Puts the review of a bundle into a library as it was decided, of a student of its own; the clip's number.
/// In the thread of the library.
Result<qint64> takeOver(Library& library, const UnpackedBundle& unpacked);

} // namespace jl
