#include "review/posture_time.h"
#include <algorithm>

namespace jl
{

std::optional<PostureTime> postureTime(const ReviewedPosture& posture)
{
    if (posture.phases.empty()) return {};
    PostureTime out;
    double moving = 0;
    std::optional<double> reference = 0.0;
    for (const ReviewedPhase& phase : posture.phases) {
        if (phase.whole.empty()) return {};
        const JudgedWhole& w = phase.whole[static_cast<std::size_t>(PhaseMeasure::Duration)];
        if (!w.value.seen()) return {};
        moving += w.value.value;
        out.u = std::max(out.u, w.value.u);
        reference = reference && w.reference ? std::optional(*reference + *w.reference) : std::nullopt;
    }
    out.duration = posture.phases.back().student.time - posture.phases.front().student.begin;
    if (reference && *reference > 0) out.ratio = moving / *reference;
    return out;
}

} // namespace jl
