#pragma once
#include "app/theme/theme.h"
#include "review/review.h"
#include <QRectF>

class QPainter;

namespace jl
{

/// The five status shapes, the same everywhere: open ring, half-filled disc, filled wedge, filled square with
/// a bar, dashed ring.
enum class Mark { Within, Watch, Fault, Safety, CannotTell };

QString markName(Mark mark);
QColor markColour(Mark mark, const Theme& theme);
void drawMark(QPainter& painter, const QPointF& centre, double size, Mark mark, const Theme& theme);

/// The mark of one judged value, from the findings at its phase.
Mark markOf(const Review& review, std::size_t posture, std::size_t phase, const JudgedValue& value);
Mark markOf(const Review& review, std::size_t posture, std::size_t phase, const JudgedWhole& value);
/// The gravest mark of a phase, and of a posture as a whole with what is said of its place in the form;
/// "cannot tell" where nothing was found there.
Mark markOf(const Review& review, std::size_t posture, std::size_t phase);
Mark markOf(const Review& review, std::size_t posture);
/// The graver of two marks; "cannot tell" counts less than anything seen.
Mark worse(Mark a, Mark b);

} // namespace jl
