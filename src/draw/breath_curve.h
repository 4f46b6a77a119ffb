#pragma once
#include "review/review.h"
#include <QPainterPath>
#include <functional>

namespace jl
{

/// The breath of a form as it is done: rising while it breathes in, falling while it breathes out, within a
/// row of a picture; phases of one breath are one curve. `xOf` places times of the student, s.
QPainterPath breathCurve(const Review& review, const QRectF& row, const std::function<double(Seconds)>& xOf);

} // namespace jl
