#include "base/angles.h"
#include "performer/truth_parts.h"

namespace jl::truth
{

double elbowFlare(const Figure& f, Side side)
{
    const Vector3d& shoulder = f.at(sided(Landmark::LeftShoulder, side));
    Vector3d out = f.of(Bone::Thorax).rotation.col(0) * (side == Side::Left ? -1 : 1);
    const Vector3d toWrist = f.at(sided(Landmark::LeftWrist, side)) - shoulder;
    // The plane holds the vertical and the line to the wrist; its normal is taken on the outer side.
    Vector3d normal = toWrist.cross(Vector3d::UnitZ());
    if (normal.norm() < 1e-9) normal = out;
    normal.normalize();
    if (normal.dot(out) < 0) normal = -normal;
    const Vector3d upperArm = f.at(sided(Landmark::LeftElbow, side)) - shoulder;
    return std::asin(clampTo(upperArm.normalized().dot(normal), -1, 1)) * kDegPerRad;
}

double armReach(const Figure& f, Side side)
{
    return 100 * (f.at(sided(Landmark::LeftWrist, side)) - f.at(sided(Landmark::LeftShoulder, side))).norm() /
           f.armLength;
}

double handHeight(const Figure& f, Side side)
{
    const Vector3d trunk = f.midShoulder - f.midHip;
    return 100 * (f.at(sided(Landmark::LeftWrist, side)) - f.midHip).dot(trunk) / trunk.squaredNorm();
}

double handCentre(const Figure& f, Side side)
{
    const double out = side == Side::Left ? -1 : 1;
    return out *
           (f.at(sided(Landmark::LeftWrist, side)) - f.midShoulder).dot(f.of(Bone::Thorax).rotation.col(0));
}

double handFront(const Figure& f, Side side)
{
    return (f.at(sided(Landmark::LeftWrist, side)) - f.midShoulder).dot(f.of(Bone::Thorax).rotation.col(1));
}

double palmUp(const Figure& f, Side side)
{
    return std::asin(clampTo(f.of(sided(Bone::LeftHand, side)).rotation.col(2).z(), -1, 1)) * kDegPerRad;
}

double shoulderRaise(const Figure& f, Side side)
{
    return 100 * (f.at(sided(Landmark::LeftEar, side)).z() - f.at(sided(Landmark::LeftShoulder, side)).z()) /
           f.shoulderToEar;
}

double armsParallel(const Figure& f)
{
    const auto forearm = [&](Side s) {
        Vector3d d = f.at(sided(Landmark::LeftWrist, s)) - f.at(sided(Landmark::LeftElbow, s));
        d.z() = 0;
        return d;
    };
    return angleBetween(forearm(Side::Left), forearm(Side::Right));
}

double armOverLeg(const Figure& f, Side lead)
{
    return wrapDeg(
        headingOf(f.at(sided(Landmark::LeftWrist, lead)) - f.at(sided(Landmark::LeftShoulder, lead))) -
        headingOf(f.at(sided(Landmark::LeftAnkle, lead)) - f.at(sided(Landmark::LeftHip, lead))));
}

double headForward(const Figure& f)
{
    const Vector3d ears = 0.5 * (f.at(Landmark::LeftEar) + f.at(Landmark::RightEar));
    Vector3d forward = f.of(Bone::Thorax).rotation.col(1);
    forward.z() = 0;
    return (ears - f.midShoulder).dot(forward.normalized());
}

double spineRound(const Figure& f)
{
    const Vector3d ears = 0.5 * (f.at(Landmark::LeftEar) + f.at(Landmark::RightEar));
    const Vector3d forward = f.of(Bone::Thorax).rotation.col(1), up = f.of(Bone::Thorax).rotation.col(2);
    const Vector3d head = ears - f.midShoulder;
    return std::atan2(head.dot(forward), head.dot(up)) * kDegPerRad;
}

double columnOffset(const Figure& f)
{
    Vector3d forward = f.of(Bone::Pelvis).rotation.col(1);
    forward.z() = 0;
    forward.normalize();
    const double at[] = {0.5 * (f.at(Landmark::LeftEar) + f.at(Landmark::RightEar)).dot(forward),
                         f.midShoulder.dot(forward), f.midHip.dot(forward),
                         0.5 * (f.at(Landmark::LeftAnkle) + f.at(Landmark::RightAnkle)).dot(forward)};
    const double mean = 0.25 * (at[0] + at[1] + at[2] + at[3]);
    double worst = 0;
    for (double a : at)
        worst = std::max(worst, std::abs(a - mean));
    return worst;
}

double gazeHeading(const Figure& f, double headingDeg)
{
    return wrapDeg(headingOf(f.of(Bone::Head).rotation.col(1)) - headingDeg);
}

double gazeDrop(const Figure& f)
{
    return -std::asin(clampTo(f.of(Bone::Head).rotation.col(1).z(), -1, 1)) * kDegPerRad;
}

} // namespace jl::truth
