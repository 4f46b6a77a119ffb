#pragma once
#include "body/joint_geometry.h"
#include "measure/measure_id.h"

namespace jl
{

/// Parts of measureValue(): arms and head, and balance. NaN for measures of other rungs.
double upperBodyValue(Measure m, const JointGeometry& reader, const BodyLengths& lengths, Side lead,
                      double headingDeg);
double balanceMargin(const JointGeometry& reader, const BodyLengths& lengths);

} // namespace jl
