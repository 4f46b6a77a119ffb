#include "base/angles.h"
#include "performer/choreography.h"
#include "performer/truth.h"

namespace jl
{
namespace
{

/// A foot in the air comes down to where its toes touch, closer in.
void touchInstead(Moment& m, const BodyShape& body)
{
    for (Side s : {Side::Left, Side::Right}) {
        FootPose& foot = m.pose.foot[s];
        if (!foot.offFloor()) continue;
        const Eigen::Vector2d standing = m.pose.foot[other(s)].heel;
        const double furthest = 1.2 * body.footLength();
        const Eigen::Vector2d out = foot.heel - standing;
        if (out.norm() > furthest) foot.heel = standing + out.normalized() * furthest;
        foot.lift = 0;
        foot.pitch = -20;
    }
}

double deepestKnee(const Moment& m, const BodyShape& body)
{
    const Figure f = poseFigure(body, m.pose);
    return std::max(trueMeasure(Measure::KneeLeadFlexion, f, m.lead, m.heading),
                    trueMeasure(Measure::KneeRearFlexion, f, m.lead, m.heading));
}

/// The pelvis rises until no knee bends too far.
void spareKnees(Moment& m, const BodyShape& body)
{
    for (int i = 0; i < 40 && deepestKnee(m, body) > body.kneeLimit && m.pose.pelvisHeight < 0.99; ++i)
        m.pose.pelvisHeight += 0.005;
}

void turnLess(Moment& m, const BodyShape& body)
{
    Pose& p = m.pose;
    for (Side s : {Side::Left, Side::Right}) {
        const double out = s == Side::Right ? 1 : -1;
        const double turn = out * wrapDeg(p.foot[s].heading - p.pelvisHeading);
        const double over = turn - body.hipTurnLimit;
        if (over > 0) p.pelvisHeading += out * over; // the pelvis stays with the foot that is turned out
    }
}

} // namespace

void adaptToBody(std::vector<Moment>& moments, const BodyShape& body)
{
    for (Moment& m : moments) {
        m.pose.round += body.stoop;
        if (!body.kicks) touchInstead(m, body);
        if (body.hipTurnLimit < 90) turnLess(m, body);
        if (body.kneeLimit < 150) spareKnees(m, body);
    }
}

} // namespace jl
