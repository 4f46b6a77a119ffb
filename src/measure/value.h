#pragma once
#include "measure/accuracy_table.h"
#include "measure/moment_uncertainty.h"
#include "measure/view.h"

namespace jl
{

/// How far a value can be trusted.
enum class Status { Ok, Weak, Unseen };
std::string_view statusName(Status s);

/// What the pressure inside a sole, which no camera sees, adds to the uncertainty of the weight, %.
inline constexpr double kPressureSpread = 1.5;

/// One measure at one moment.
struct Value {
    Measure measure = Measure::KneeLeadFlexion;
    bool seen = false; ///< false: this view cannot give it; value and uncertainty then mean nothing
    double value = 0;  ///< deg, m or %
    double u = 0;      ///< standard uncertainty, same unit
    View view = View::Corner;
    Plane plane = Plane::Space;
    bool certain = true; ///< exact enough for what is promised of this measure
};

/// A measured value without the method's bias; a palm never looks further than straight up or down.
double withoutBias(const AccuracyTable::Entry& known, Measure measure, double value);

/// A measured value without its bias, and its uncertainty: from the variance that geometry gives, what is
/// known of the method and what of the moment; `besides`: a standard uncertainty that this value has beyond
/// those. What is not finite is not seen.
Value ratedValue(const AccuracyTable::Entry& known, Measure measure, View view, bool seen, double value,
                 double variance, const MomentUncertainty& doubt = {}, double besides = 0);

} // namespace jl
