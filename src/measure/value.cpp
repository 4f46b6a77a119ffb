#include "measure/value.h"
#include "base/angles.h"
#include <cmath>

namespace jl
{

std::string_view statusName(Status s)
{
    return s == Status::Ok ? "ok" : s == Status::Weak ? "weak" : "unseen";
}

double withoutBias(const AccuracyTable::Entry& known, Measure measure, double value)
{
    const bool palm = measure == Measure::PalmLeadUp || measure == Measure::PalmRearUp;
    return palm ? clampTo(value - known.bias, -90, 90) : value - known.bias;
}

Value ratedValue(const AccuracyTable::Entry& known, Measure measure, View view, bool seen, double value,
                 double variance, const MomentUncertainty& doubt, double besides)
{
    Value v;
    v.measure = measure;
    v.view = view;
    v.value = withoutBias(known, measure, value);
    v.u = std::hypot(doubt.factor() * known.uncertainty(variance), doubt.ofTime(measure), besides);
    if (measure == Measure::WeightLead) v.u = std::hypot(v.u, kPressureSpread);
    const bool given = seen && std::isfinite(v.value) && std::isfinite(v.u);
    v.status = !given ? Status::Unseen : known.keepsPromise(v.u) ? Status::Ok : Status::Weak;
    return v;
}

} // namespace jl
