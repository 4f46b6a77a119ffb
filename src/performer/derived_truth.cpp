#include "performer/derived_truth.h"
#include "performer/truth.h"
#include "performer/truth_parts.h"

namespace jl
{
namespace
{

using namespace truth;

double fromNearestEighth(double heading)
{
    return heading - 45 * std::round(heading / 45);
}

/// Angle of the shank out of the vertical plane of its foot, outward positive.
double kneeTrackAngle(const Figure& f, Side side)
{
    const Vector3d shank = f.at(sided(Landmark::LeftKnee, side)) - f.at(sided(Landmark::LeftAnkle, side));
    const Vector3d axis = footAxis(f, side), toTheRight(axis.y(), -axis.x(), 0);
    const double beside = shank.dot(toTheRight) * (side == Side::Left ? -1 : 1);
    return std::asin(clampTo(beside / shank.norm(), -1, 1)) * kDegPerRad;
}

} // namespace

std::vector<NamedTruth> derivedTruth(const Figure& f, Side lead, double headingDeg)
{
    const double left = wrapDeg(headingOf(footAxis(f, Side::Left))),
                 right = wrapDeg(headingOf(footAxis(f, Side::Right)));
    const auto measured = [&](Measure m) { return trueMeasure(m, f, lead, headingDeg); };
    const double leadBend = measured(Measure::KneeLeadFlexion), rearBend = measured(Measure::KneeRearFlexion);
    const bool leftLeads = lead == Side::Left;
    return {{"foot.L.heading", left},
            {"foot.R.heading", right},
            {"foot.L.heading.offset", fromNearestEighth(left)},
            {"foot.R.heading.offset", fromNearestEighth(right)},
            {"weight.L", 100 * f.weightLeft},
            {"weight.R", 100 * (1 - f.weightLeft)},
            {"knee.L.flexion", leftLeads ? leadBend : rearBend},
            {"knee.R.flexion", leftLeads ? rearBend : leadBend},
            {"knee.lead.track.angle", kneeTrackAngle(f, lead)},
            {"knee.rear.track.angle", kneeTrackAngle(f, other(lead))},
            {"stance.length.feet", measured(Measure::StanceLength) / f.footLength},
            {"stance.width.feet", measured(Measure::StanceWidth) / f.footLength},
            {"feet.parallel.width.breadths", measured(Measure::FeetParallelWidth) / f.footBreadth},
            {"hands.apart.shoulders", measured(Measure::HandsApart) / f.shoulderWidth}};
}

} // namespace jl
