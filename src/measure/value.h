#pragma once
#include "base/units.h"
#include "measure/accuracy_table.h"
#include "measure/estimate.h"
#include "measure/moment_uncertainty.h"
#include "measure/view.h"

namespace jl
{

/// What the pressure inside a sole, which no camera sees, adds to the uncertainty of the weight, %.
inline constexpr Percent kPressureSpread = 1.5;

/// One measure at one moment.
struct Value : Estimate {
    Measure measure = Measure::KneeLeadFlexion; ///< its unit is that of measureInfo()
    View view = View::Corner;
    Plane plane = Plane::Space;
};

/// A measured value without the method's bias; a palm never looks further than straight up or down.
double withoutBias(const AccuracyTable::Entry& known, Measure measure, double value);

/// A measured value without its bias, and its uncertainty: from the variance that geometry gives, what is
/// known of the method and what of the moment; `besides`: a standard uncertainty that this value has beyond
/// those. What is not finite is not seen.
Value ratedValue(const AccuracyTable::Entry& known, Measure measure, View view, bool seen, double value,
                 double variance, const MomentUncertainty& doubt = {}, double besides = 0);

} // namespace jl
