#pragma once
#include "base/units.h"
#include "lineup/line_up.h"
#include <span>

namespace jl
{

/// Where one posture of a form lies in a clip: as proposed, or corrected by hand.
struct PostureCut {
    struct Phase {
        std::string id;
        Seconds time = 0;     ///< s, key moment
        Share confidence = 1; ///< share of such key moments that lie within 0.15 s of the true one
    };
    std::size_t place = 0; ///< of the posture in the form, see ModelPerformance::places()
    std::string id;
    Side lead = Side::Right;
    Seconds begin = 0, end = 0; ///< s
    PostureRun::Order order = PostureRun::Order::InPlace;
    Share confidence = 1;      ///< the mean of its phases'
    std::vector<Phase> phases; ///< those that the clip shows, in the form's order
};

/// The runs of a line-up that count, as cuts.
std::vector<PostureCut> cutsOf(const LineUp& lineUp, const ModelPerformance& model);

/// How sure the time of a key moment is, whose surroundings are so unlike the model's: measured on 200
/// performances each of seeds 3001 and 3002 (docs/formats.md, "Cutting a reference").
double keyMomentConfidence(double dissimilarity);

/// The line-up that has these postures and key moments instead of those found: what is not named was not
/// done. Refuses postures and phases that the form does not have there, and times that do not rise or lie
/// outside of the clip, which lasts from `first` to `last`, s; the error names no file.
Result<LineUp> lineUpAsCut(const LineUp& found, const ModelPerformance& model,
                           std::span<const PostureCut> cuts, double first, double last);

} // namespace jl
