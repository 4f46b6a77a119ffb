#pragma once
#include "measure/measure_id.h"
#include "performer/figure.h"

namespace jl
{

/// The exact value of a measure on the exact body: degrees, metres or percent. It is computed from joints in
/// space with no code of the estimators, so that they can be checked against it. Every defined measure has a
/// truth.
double trueMeasure(Measure m, const Figure& figure, Side lead, double headingDeg);

/// Distance from the extrapolated centre of mass (Hof 2005: position + velocity / sqrt(g / height)) to the
/// nearest edge of the area that the feet on the floor span, m; negative outside, and when no foot stands.
double trueBalanceMargin(const Figure& figure);

} // namespace jl
