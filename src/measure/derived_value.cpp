#include "measure/derived_value.h"
#include "base/angles.h"
#include "base/units.h"
#include <cmath>

namespace jl
{
namespace
{

/// Relative spreads of a student's own lengths, and ratios of segments.
/// Source: usual proportions of the body tables in data/bodies; not tuned.
struct OwnLengthOptions {
    /// Standard deviation of a length that follows from the height. x0.5 and x2: none.
    Ratio usualSpread = 0.04;
    /// Standard deviation of a foot length that was measured. x0.5 and x2: none.
    Ratio knownSpread = 0.01;
    /// Shank over the standing hip's height, joint to joint. x0.5 and x2: none.
    Ratio shankOfHip = 0.453;
    /// Shoulder breadth over the body's height, joint to joint. x0.5 and x2: none.
    Ratio shouldersOfHeight = 0.206;
};
constexpr OwnLengthOptions kOptions;

double fromNearestEighth(double heading)
{
    return heading - 45 * std::round(heading / 45);
}

/// A length in lengths of the student's own, whose uncertainty adds to its own.
Value inOwn(Value v, const OwnLength& own)
{
    v.value /= own.length;
    v.u = std::hypot(v.u / own.length, v.value * own.spread);
    return v;
}

/// How far a joint stands off a plane, as an angle seen from the other end of its bone.
Value asAngle(Value v, const OwnLength& bone)
{
    const double share = clampTo(v.value / bone.length, -0.99, 0.99), level = std::sqrt(1 - share * share);
    v.u = std::hypot(v.u / bone.length, share * bone.spread) / level * kDegPerRad;
    v.value = std::asin(share) * kDegPerRad;
    return v;
}

/// Where a foot points in the room. Turned out is positive on either side; a heading grows to the right.
Value inRoom(Value v, Side side, double headingDeg)
{
    v.value = wrapDeg(headingDeg + (side == Side::Left ? -v.value : v.value));
    return v;
}

Value offset(Value heading)
{
    heading.value = fromNearestEighth(heading.value);
    return heading;
}

Value onOtherLeg(Value weight)
{
    weight.value = 100 - weight.value;
    return weight;
}

} // namespace

OwnLengths OwnLengths::of(const PersonProfile& profile, const BodyLengths& lengths)
{
    return {{profile.footLengthOrUsual(), profile.footLength ? kOptions.knownSpread : kOptions.usualSpread},
            {lengths.soleWidth, kOptions.usualSpread},
            {kOptions.shouldersOfHeight * profile.heightOrUsual(), kOptions.usualSpread},
            {kOptions.shankOfHip * lengths.standingHip, kOptions.usualSpread}};
}

std::vector<DerivedValue> derivedValues(std::span<const Value> values, Side lead, double headingDeg,
                                        const OwnLengths& own)
{
    using enum Measure;
    const auto of = [&](Measure m) { return values[static_cast<std::size_t>(m)]; };
    const auto bySide = [&](Side side, Measure ifLead, Measure ifRear) {
        return of(side == lead ? ifLead : ifRear);
    };
    const auto heading = [&](Side side) {
        return inRoom(bySide(side, FootLeadAngle, FootRearAngle), side, headingDeg);
    };
    const auto weight = [&](Side side) { return side == lead ? of(WeightLead) : onOtherLeg(of(WeightLead)); };
    using enum Derivation;
    using enum DerivedUnit;
    return {{"knee.L.flexion", OtherSide, Degree, bySide(Side::Left, KneeLeadFlexion, KneeRearFlexion)},
            {"knee.R.flexion", OtherSide, Degree, bySide(Side::Right, KneeLeadFlexion, KneeRearFlexion)},
            {"weight.L", OtherSide, PerCent, weight(Side::Left)},
            {"weight.R", OtherSide, PerCent, weight(Side::Right)},
            {"foot.L.heading", RoomHeading, Degree, heading(Side::Left)},
            {"foot.R.heading", RoomHeading, Degree, heading(Side::Right)},
            {"foot.L.heading.offset", HeadingOffset, Degree, offset(heading(Side::Left))},
            {"foot.R.heading.offset", HeadingOffset, Degree, offset(heading(Side::Right))},
            {"knee.lead.track.angle", ShankAngle, Degree, asAngle(of(KneeLeadTrack), own.shank)},
            {"knee.rear.track.angle", ShankAngle, Degree, asAngle(of(KneeRearTrack), own.shank)},
            {"stance.length.feet", InOwnLengths, FootLengths, inOwn(of(StanceLength), own.foot)},
            {"stance.width.feet", InOwnLengths, FootLengths, inOwn(of(StanceWidth), own.foot)},
            {"feet.parallel.width.breadths", InOwnLengths, FootBreadths,
             inOwn(of(FeetParallelWidth), own.footBreadth)},
            {"hands.apart.shoulders", InOwnLengths, ShoulderWidths, inOwn(of(HandsApart), own.shoulders)}};
}

std::string_view derivedUnitName(DerivedUnit unit)
{
    constexpr std::string_view names[] = {"deg", "%", "feet", "breadths", "shoulders"};
    return names[static_cast<int>(unit)];
}

} // namespace jl
