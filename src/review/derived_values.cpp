#include "review/derived_values.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kAlike = 0.35; ///< correlation of the errors of two heights in one clip

const JudgedValue* heightIn(const Review& review, std::pair<std::size_t, std::size_t> at)
{
    const auto& values = review.postures[at.first].phases[at.second].values;
    if (values.empty()) return nullptr;
    const JudgedValue& height = values[static_cast<std::size_t>(Measure::PelvisHeight)];
    return height.status == Status::Unseen ? nullptr : &height;
}

} // namespace

std::vector<DerivedValue> derivedValues(const ReviewedPhase& phase, const OwnLengths& own)
{
    std::vector<Value> values;
    for (const JudgedValue& v : phase.values) {
        values.push_back(v.value);
        if (v.status == Status::Unseen) values.back().status = Status::Unseen;
    }
    return derivedValues(values, phase.student.lead, phase.student.heading, own);
}

std::optional<HeightChange> heightChange(const Review& review, std::pair<std::size_t, std::size_t> from,
                                         std::pair<std::size_t, std::size_t> to)
{
    const JudgedValue *a = heightIn(review, from), *b = heightIn(review, to);
    if (!a || !b) return {};
    const double alike = a->value.view == b->value.view ? kAlike : 0;
    const double ua = a->value.u, ub = b->value.u;
    return HeightChange{from.first, from.second, b->value.value - a->value.value,
                        std::sqrt(ua * ua + ub * ub - 2 * alike * ua * ub)};
}

std::vector<HeightChange> heightChanges(const Review& review, std::size_t posture, std::size_t phase)
{
    std::vector<std::pair<std::size_t, std::size_t>> since;
    if (phase > 0) since.emplace_back(posture, phase - 1);
    if (posture > 0) since.emplace_back(posture - 1, review.postures[posture - 1].phases.size() - 1);
    std::vector<HeightChange> out;
    for (const auto& from : since)
        if (const auto change = heightChange(review, from, {posture, phase})) out.push_back(*change);
    return out;
}

} // namespace jl
