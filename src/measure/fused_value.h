#pragma once
#include "measure/phase_measure.h"
#include "measure/value.h"
#include <span>

namespace jl
{

/// One value of a measure from several readings of one moment, each by another camera or by both: the mean
/// with weights w_i = 1/u_i^2. Their errors are correlated (the same body, the same network), r between any
/// two, so that
///     u^2 = sum_ij w_i w_j r_ij u_i u_j / (sum w_i)^2,  r_ij = r, r_ii = 1.
/// r: see FusionOptions. What no camera can see, as the pressure inside a sole, and what belongs to the body
/// (Estimate::common) is not reduced.
/// Directions are taken on the short way round. At least one reading, all of them seen; all else is as in the
/// first of them.
Value fusedValue(std::span<const Value> readings);

/// Whether readings of a phase as a whole are taken together. Not counts, nor a phase's time, which goes from
/// one arrival to the next, nor heights, which the lines of sight give better than a picture does.
bool isFused(PhaseMeasure m);

/// The same of a phase as a whole, from the readings that have a value; those that disagree by more than
/// their uncertainties leave it less sure. Where it is not fused the first reading stands.
PhaseValue fusedValue(std::span<const PhaseValue> readings);

} // namespace jl
