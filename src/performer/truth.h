#pragma once
#include "measure/measure_id.h"
#include "performer/figure.h"

namespace jl
{

/// The exact value of a measure on the exact body: degrees, metres or percent. It is computed from joints in
/// space with no code of the estimators, so that they can be checked against it.
double trueMeasure(Measure m, const Figure& figure, Side lead, double headingDeg);

} // namespace jl
