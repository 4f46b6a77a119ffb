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

Value ratedValue(const AccuracyTable::Entry& known, const RawValue& raw, const MomentUncertainty& doubt)
{
    Value v;
    v.measure = raw.measure;
    v.view = raw.view;
    v.value = withoutBias(known, raw.measure, raw.value);
    v.common = known.between;
    v.u = std::hypot(
        std::hypot(doubt.factor() * known.uncertainty(raw.variance), doubt.ofTime(raw.measure), raw.besides),
        v.common);
    if (raw.measure == Measure::WeightLead) v.u = std::hypot(v.u, kPressureSpread);
    const bool given = raw.seen && std::isfinite(v.value) && std::isfinite(v.u);
    v.status = !given ? Status::Unseen : known.keepsPromise(v.u) ? Status::Ok : Status::Weak;
    return v;
}

} // namespace jl
