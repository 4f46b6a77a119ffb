#include "review/cautions.h"
#include <algorithm>

namespace jl
{

const std::vector<std::string>& cautions()
{
    static const std::vector<std::string> lines{
        "This describes movement; it is no medical advice.",
        "Stop with pain, dizziness or numbness.",
        "Warm up first; let the knees track the toes; go only as low and as high as is comfortable.",
        "Ask a physician or physiotherapist before training with an injury, a joint replacement, "
        "osteoporosis, pregnancy or balance trouble.",
        "Keep a support within reach for one-leg work, and leave out jumps if you have such limits.",
    };
    return lines;
}

std::vector<std::string> cautionsFor(const Standards& standards, const Review& review)
{
    std::vector<std::string> lines = cautions();
    for (const PostureCaution& c : standards.cautions)
        if (std::any_of(review.postures.begin(), review.postures.end(), [&](const ReviewedPosture& p) {
                return p.status != PostureStatus::NotFilmed && p.status != PostureStatus::LeftOut &&
                       std::find(c.postures.begin(), c.postures.end(), p.id) != c.postures.end();
            }))
            lines.push_back(c.text);
    return lines;
}

} // namespace jl
