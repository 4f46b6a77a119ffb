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

/// What geometry gives for one measure at one moment, before the accuracy table is applied. Units as those of
/// the measure.
struct RawValue {
    Measure measure = Measure::KneeLeadFlexion;
    View view = View::Corner;
    bool seen = false;
    double value = 0;
    double variance = 0; ///< propagated from the points and the camera
    double besides = 0;  ///< standard uncertainty from sources that the accuracy table does not cover
};

/// The value without the method's bias, and its standard uncertainty:
/// u^2 = (f t(variance))^2 + (time)^2 + besides^2 + between^2, with the table's spread t, the factor f of an
/// unusual pose and what the value changes by within the moment's own uncertainty; what bodies differ by is
/// common to the clip. A value that is not finite is unseen.
Value ratedValue(const AccuracyTable::Entry& known, const RawValue& raw, const MomentUncertainty& doubt = {});

} // namespace jl
