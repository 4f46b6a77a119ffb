#pragma once
#include "base/progress.h"
#include "base/units.h"
#include "lineup/cost.h"
#include "pipeline/shipped_data.h"

namespace jl
{

/// How well a clip shows a form.
struct FormFit {
    std::string form;
    Cost dissimilarity = 0; ///< a sample, on average; ordinary clips of a form have 0.006 to 0.03
    Share shown = 0;        ///< share of the form's postures that the clip shows
    /// What forms are ranked by, the least first. A clip shows a part of a long form as well as the short
    /// form that is just that part: the one of which it shows more is meant.
    double score() const { return dissimilarity * (2 - shown); }
};

/// The fit of a line-up with one of the form's models.
FormFit fitOf(const std::string& form, const LineUp& lineUp, const ModelPerformance& model);

/// The form that a clip matches much better than the given one; none where no other is clearly better, or
/// where the comparison is cancelled. Uses a rough line-up of the first minute of a smoothed track and takes
/// some seconds: for clips that match their form badly.
std::optional<std::string> betterForm(const ShippedData& data, const Track& smooth, const std::string& school,
                                      const std::string& form, const Progress& progress = {});

/// Words for the instructor where a clip that was read as a form shows another much better; empty elsewhere.
std::string formDoubt(const ShippedData& data, const ClipReading& clip, const std::string& school,
                      const std::string& form, const Progress& progress = {});

/// What is said of a clip in which a form cannot be found, with the form that it does show where there is
/// one.
Error withLikelierForm(Error error, const ShippedData& data, const Track& extracted,
                       const std::string& school, const std::string& form);

} // namespace jl
