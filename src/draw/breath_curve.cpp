#include "draw/breath_curve.h"
#include <optional>

namespace jl
{

QPainterPath breathCurve(const Review& review, const QRectF& row, const std::function<double(Seconds)>& xOf)
{
    const auto height = [&](bool in) { return in ? row.top() : row.bottom(); };
    QPainterPath curve;
    std::optional<bool> under;
    double from = 0, to = 0;
    const auto draw = [&] {
        if (!under) return;
        const double a = height(!*under), b = height(*under), middle = 0.5 * (from + to);
        if (curve.elementCount() == 0) curve.moveTo(from, a);
        curve.lineTo(from, a);
        curve.cubicTo(middle, a, middle, b, to, b);
    };
    for (const ReviewedPosture& posture : review.postures)
        for (const ReviewedPhase& phase : posture.phases) {
            if (!phase.student.matched) continue;
            const bool in = phase.breath == "in";
            if (under != in) {
                draw();
                from = under ? to : xOf(phase.student.begin);
                under = in;
            }
            to = xOf(phase.student.time);
        }
    draw();
    return curve;
}

} // namespace jl
