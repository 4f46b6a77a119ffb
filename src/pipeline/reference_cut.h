#pragma once
#include "base/progress.h"
#include "pipeline/form_fit.h"

namespace jl
{

/// Where a recorded performance is to be cut into postures and phases: as proposed, or corrected by hand.
struct ReferenceCut {
    FormFit fit;
    std::vector<PostureCut> postures; ///< in the clip's order
    std::vector<std::string> leftOut; ///< of the form between the first and the last posture shown
    std::vector<FormFit> others;      ///< forms that fit too, the likeliest first; empty where one was named
    std::string source;               ///< the file it was read from, for messages
};

/// Proposes where to cut a performance of a form, or, where none is named, of the built-in form that fits
/// best. Fails where no form fits. The track is as extracted.
Result<ReferenceCut> proposeCut(const ShippedData& data, const Track& extracted, const std::string& school,
                                const std::optional<std::string>& form, const Progress& progress = {});

/// As docs/formats.md describes it, and back: of what was written only the form and the postures are read.
std::string cutJson(const ReferenceCut& cut);
Result<ReferenceCut> readCut(const std::filesystem::path& file);
Result<ReferenceCut> cutFromJson(const std::string& text, const std::string& where);

} // namespace jl
