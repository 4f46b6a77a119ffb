#pragma once
#include "body/body_points.h"
#include "measure/measure_id.h"

namespace jl
{

/// The value of a measure on body points, by the definitions of measureInfo(): degrees, metres or percent.
/// Weight and balance are those of a body at rest (centre of pressure under the centre of mass); a weight may
/// lie outside 0 to 100 %.
double measureValue(Measure m, const BodyPoints& points, const BodyLengths& lengths, Side lead,
                    double headingDeg);

} // namespace jl
