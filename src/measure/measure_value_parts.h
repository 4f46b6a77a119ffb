#pragma once
#include "body/joint_reader.h"
#include "measure/measure_id.h"

namespace jl
{

/// Parts of measureValue(): arms and head, and balance. NaN for measures of other rungs.
double upperBodyValue(Measure m, const JointReader& reader, const BodyLengths& lengths, Side lead,
                      double headingDeg);
double balanceMargin(const JointReader& reader, const BodyLengths& lengths);

} // namespace jl
