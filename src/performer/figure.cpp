#include "performer/figure.h"
#include "base/angles.h"
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Matrix3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

Vector3d headingForward(double deg)
{
    return {std::sin(deg * kRadPerDeg), std::cos(deg * kRadPerDeg), 0};
}

Vector3d headingRight(double deg)
{
    return {std::cos(deg * kRadPerDeg), -std::sin(deg * kRadPerDeg), 0};
}

namespace
{

// The neck from mid-shoulder, the middle of the head from there, and the ears from that; m at 1.70 m.
constexpr double kNeck = 0.085;
const Vector3d kHeadCentre(0, 0.025, 0.122), kEar(0, -0.005, -0.015);
constexpr double kFullReach = 0.9985; ///< of an arm's length: never quite straight
constexpr double kArmEasing =
    0.97; ///< from this share of it an arm yields, so that it does not snap straight
constexpr double kLegEasing =
    0.05; ///< share of its length by which a swinging leg yields before it is straight
constexpr double kKnuckles = 0.085;         ///< from the wrist, m at 1.70 m
constexpr double kMoreThanStanding = 0.003; ///< what a leg in the air stretches beyond a standing one

Matrix3d headingFrame(double deg)
{
    Matrix3d m;
    m << headingRight(deg), headingForward(deg), Vector3d::UnitZ();
    return m;
}

double outward(Side side)
{
    return side == Side::Left ? -1.0 : 1.0;
}

/// How far a foot has left the floor and is free to swing: 0 where it stands, 1 from 6 cm on.
double released(const FootPose& foot)
{
    const double up = clampTo(foot.lift / 0.06, 0, 1);
    return up * up * (3 - 2 * up);
}

/// A frame whose up is the given axis and whose forward is as near as can be to a wish.
Matrix3d frameAlong(const Vector3d& up, const Vector3d& forwardWish)
{
    const Vector3d z = up.normalized();
    const Vector3d y = (forwardWish - z * z.dot(forwardWish)).normalized();
    Matrix3d m;
    m << y.cross(z), y, z;
    return m;
}

BoneFrame footFrame(const BodyShape& body, const FootPose& foot)
{
    const Matrix3d level = headingFrame(foot.heading);
    // The heel point is the anchor; a positive pitch turns about the heel, a negative one about the ball.
    const Vector3d heelBase = body.heelPoint() - Vector3d(0, 0, body.heelPoint().z());
    const Vector3d pivot = foot.pitch >= 0 ? heelBase : body.ballPoint();
    const Matrix3d turn = Eigen::AngleAxisd(foot.pitch * kRadPerDeg, Vector3d::UnitX()).toRotationMatrix();
    BoneFrame f;
    f.rotation = level * turn;
    const Vector3d groundOrigin = Vector3d(foot.heel.x(), foot.heel.y(), foot.lift) - level * heelBase;
    f.origin = groundOrigin + level * (pivot - turn * pivot);
    return f;
}

/// The value itself up to `free`, then bending smoothly towards `limit` on either side: a joint that meets
/// its end without a jolt.
double eased(double value, double free, double limit)
{
    const double over = std::abs(value) - free;
    if (over <= 0) return value;
    if (limit <= free) return std::copysign(free, value);
    return std::copysign(free + (limit - free) * std::tanh(over / (limit - free)), value);
}

struct TwoBones {
    Vector3d middle, end;
};

/// Two bones from a root towards a target; the middle joint lies towards the pole. They stretch to the full
/// reach (share of their length) at most, and yield from the easing share of that.
TwoBones reach(const Vector3d& root, const Vector3d& target, double first, double second,
               const Vector3d& pole, double fullReach, double easing)
{
    const Vector3d d = target - root;
    const double distance =
        (first + second) * eased(d.norm() / (first + second), easing * fullReach, fullReach);
    const Vector3d axis = d.normalized();
    const double along = (first * first + distance * distance - second * second) / (2 * distance);
    const double off = std::sqrt(std::max(0.0, first * first - along * along));
    const Vector3d side = (pole - axis * axis.dot(pole)).normalized();
    const Vector3d middle = root + axis * along + side * off;
    return {middle, root + axis * distance};
}

/// The knee on its circle about the line hip to ankle, turned so that its plumb falls at the wished distance
/// beside the foot's axis.
Vector3d kneeForTrack(const Vector3d& hip, const Vector3d& ankle, double thigh, double shank,
                      const Vector3d& footForward, const Vector3d& footOutward, double track,
                      double fullReach, double easing)
{
    Vector3d straight =
        reach(hip, ankle, thigh, shank, footForward + Vector3d(0, 0, 0.15), fullReach, easing).middle;
    const Vector3d axis = (ankle - hip).normalized();
    const Vector3d centre = hip + axis * axis.dot(straight - hip);
    const Vector3d e1 = straight - centre, e2 = axis.cross(e1);
    // (centre + e1 cos + e2 sin - ankle) . outward = track
    const double a = e1.dot(footOutward), b = e2.dot(footOutward),
                 c = track - (centre - ankle).dot(footOutward);
    const double size = std::hypot(a, b);
    if (size < 1e-6) return straight;
    const double base = std::atan2(b, a), spread = std::acos(eased(c / size, 0.80, 0.97));
    // Of the two places on the circle the one in front, which moves outward as the knee swings outward.
    const double wished = std::remainder(b > 0 ? base - spread : base + spread, 2 * std::numbers::pi);
    const double swing = eased(wished, 35 * kRadPerDeg, 55 * kRadPerDeg); // a hip swings its knee no further
    return centre + e1 * std::cos(swing) + e2 * std::sin(swing);
}

/// A level direction to the right, raised by an angle.
Vector3d tilted(const Vector3d& right, double deg)
{
    return right * std::cos(deg * kRadPerDeg) + Vector3d::UnitZ() * std::sin(deg * kRadPerDeg);
}

void placeFeet(Figure& f, const BodyShape& body, const Pose& pose)
{
    for (Side side : {Side::Left, Side::Right}) {
        const BoneFrame foot = footFrame(body, pose.foot[side]);
        f.of(sided(Bone::LeftFoot, side)) = foot;
        f.landmark[index(sided(Landmark::LeftHeel, side))] = foot.place(body.heelPoint());
        f.landmark[index(sided(Landmark::LeftToe, side))] = foot.place(body.toePoint());
        f.landmark[index(sided(Landmark::LeftAnkle, side))] = foot.place({0, 0, body.ankleHeight()});
    }
}

void placeTrunk(Figure& f, const BodyShape& body, const Pose& pose, const Vector3d& midHip)
{
    const Vector3d axis =
        (Vector3d::UnitZ() + headingForward(pose.leanDirection) * std::tan(pose.leanForward * kRadPerDeg) +
         headingRight(pose.leanDirection) * std::tan(pose.leanSide * kRadPerDeg))
            .normalized();
    BoneFrame& pelvis = f.of(Bone::Pelvis);
    pelvis.origin = midHip;
    pelvis.rotation =
        frameAlong((Vector3d::UnitZ() + 0.5 * axis).normalized(), headingForward(pose.pelvisHeading));
    const Vector3d hipLine = tilted(headingRight(pose.pelvisHeading), pose.pelvisTilt) * body.hipHalfWidth();
    f.landmark[index(Landmark::LeftHip)] = midHip - hipLine;
    f.landmark[index(Landmark::RightHip)] = midHip + hipLine;

    BoneFrame& thorax = f.of(Bone::Thorax);
    f.midHip = midHip;
    f.midShoulder = midHip + axis * body.trunkLength();
    thorax.origin = f.midShoulder;
    thorax.rotation = frameAlong(axis, headingForward(pose.thoraxHeading));
    const Vector3d shoulderLine =
        tilted(thorax.rotation.col(0), pose.shoulderTilt) * body.shoulderHalfWidth();
    const Vector3d drawnUp = thorax.rotation.col(2) * pose.shrug * f.shoulderToEar;
    f.landmark[index(Landmark::LeftShoulder)] = f.midShoulder - shoulderLine + drawnUp;
    f.landmark[index(Landmark::RightShoulder)] = f.midShoulder + shoulderLine + drawnUp;
}

void placeHead(Figure& f, const BodyShape& body, const Pose& pose)
{
    const double k = body.scale();
    BoneFrame& head = f.of(Bone::Head);
    const Matrix3d turn = headingFrame(pose.headHeading);
    head.rotation = turn * Eigen::AngleAxisd(-pose.headPitch * kRadPerDeg, Vector3d::UnitX()) *
                    Eigen::AngleAxisd(-pose.headTilt * kRadPerDeg, Vector3d::UnitY()).toRotationMatrix();
    const Matrix3d& thorax = f.of(Bone::Thorax).rotation;
    const Vector3d axis = Eigen::AngleAxisd(-pose.round * kRadPerDeg, thorax.col(0)) * thorax.col(2);
    head.origin = f.midShoulder + axis * kNeck * k + head.rotation * kHeadCentre * k;
    using enum Landmark;
    const auto put = [&](Landmark l, double x, double y, double z) {
        f.landmark[index(l)] = head.place(Vector3d(x, y, z) * k);
    };
    put(Nose, 0, 0.112, -0.022);
    put(LeftEyeInner, -0.018, 0.090, 0.012);
    put(LeftEye, -0.032, 0.088, 0.012);
    put(LeftEyeOuter, -0.045, 0.078, 0.012);
    put(RightEyeInner, 0.018, 0.090, 0.012);
    put(RightEye, 0.032, 0.088, 0.012);
    put(RightEyeOuter, 0.045, 0.078, 0.012);
    put(LeftEar, -0.077, kEar.y(), kEar.z());
    put(RightEar, 0.077, kEar.y(), kEar.z());
    put(MouthLeft, -0.024, 0.086, -0.066);
    put(MouthRight, 0.024, 0.086, -0.066);
}

void placeArm(Figure& f, const BodyShape& body, const Pose& pose, Side side)
{
    const HandPose& hand = pose.hand[side];
    const Matrix3d thorax = f.of(Bone::Thorax).rotation;
    const double out = outward(side);
    const Vector3d shoulder = f.at(sided(Landmark::LeftShoulder, side));
    const Vector3d target = f.midShoulder + thorax.col(2) * (hand.place.z() / 100 - 1) * body.trunkLength() +
                            thorax.col(1) * hand.place.y() * body.scale() +
                            thorax.col(0) * out * hand.place.x() * body.scale();
    const double swing = hand.elbowOut * kRadPerDeg;
    const Vector3d hang = Vector3d(out * 0.35, -0.35, -1);
    const Vector3d pole = thorax * (Eigen::AngleAxisd(-out * swing, Vector3d::UnitY()) * hang);
    const TwoBones arm =
        reach(shoulder, target, body.upperArm(), body.forearm(), pole, kFullReach, kArmEasing);
    f.landmark[index(sided(Landmark::LeftElbow, side))] = arm.middle;
    f.landmark[index(sided(Landmark::LeftWrist, side))] = arm.end;
    const Vector3d bend = (arm.middle - 0.5 * (shoulder + arm.end)).normalized() + Vector3d(0, 0, 1e-6);
    f.of(sided(Bone::LeftUpperArm, side)) = {frameAlong(shoulder - arm.middle, -bend), shoulder};
    f.of(sided(Bone::LeftForearm, side)) = {frameAlong(arm.middle - arm.end, -bend), arm.middle};

    // The hand bends at the wrist towards the facing it wants, as far as a wrist bends.
    const Vector3d forearm = (arm.end - arm.middle).normalized();
    const Vector3d palm = (thorax * Vector3d(out * hand.palm.x(), hand.palm.y(), hand.palm.z())).normalized();
    Vector3d fingers = forearm - palm * palm.dot(forearm);
    fingers += forearm * 0.6 * clampTo((0.75 - fingers.norm()) / 0.35, 0, 1); // the wrist gives no further
    fingers.normalize();
    const Vector3d normal = (palm - fingers * fingers.dot(palm)).normalized();
    BoneFrame frame;
    frame.origin = arm.end;
    frame.rotation << fingers.cross(normal), fingers,
        normal; // x across, y along the fingers, z out of the palm
    const auto bent = [&](double deg) {
        return Matrix3d(frame.rotation * Eigen::AngleAxisd(deg * kRadPerDeg, Vector3d::UnitX()));
    };
    frame.rotation = bent(hand.drop);
    f.of(sided(Bone::LeftHand, side)) = frame;
    f.of(sided(Bone::LeftFingers, side)) = {bent(hand.curl),
                                            frame.place(Vector3d(0, kKnuckles, 0) * body.scale())};
    // With the palm away from the viewer and the fingers up, x points left: a right thumb lies there.
    const double thumb = side == Side::Left ? -1 : 1;
    const double k = body.scale();
    const auto put = [&](Landmark l, double across, double along) {
        f.landmark[index(sided(l, side))] = frame.place(Vector3d(thumb * across, along, 0) * k);
    };
    put(Landmark::LeftIndex, 0.022, 0.088);
    put(Landmark::LeftPinky, -0.036, 0.078);
    put(Landmark::LeftThumb, 0.050, 0.060);
}

/// Moves all from the hips up, as it is held, to where the middle of the hips is to be.
void carryUpperBody(Figure& f, const Vector3d& midHip)
{
    const Vector3d by = midHip - f.midHip;
    for (std::size_t i = 0; i <= index(Landmark::RightHip); ++i)
        f.landmark[i] += by;
    for (std::size_t i = 0; i <= static_cast<std::size_t>(Bone::RightFingers); ++i)
        f.bone[i].origin += by;
    f.midHip = midHip;
    f.midShoulder += by;
}

void placeLeg(Figure& f, const BodyShape& body, const Pose& pose, Side side)
{
    const Vector3d hip = f.at(sided(Landmark::LeftHip, side)), ankle = f.at(sided(Landmark::LeftAnkle, side));
    const Vector3d forward = headingForward(pose.foot[side].heading);
    const Vector3d out = headingRight(pose.foot[side].heading) * outward(side);
    const Vector3d knee = kneeForTrack(
        hip, ankle, body.thigh(), body.shank(), forward, out, pose.kneeTrack[side],
        std::min(0.9998, pose.legReach + kMoreThanStanding), 1 - kLegEasing * released(pose.foot[side]));
    f.landmark[index(sided(Landmark::LeftKnee, side))] = knee;
    // Where the leg cannot reach, the shank keeps its length and the foot gives way: only a swinging foot
    // ever does.
    const Vector3d shankEnd = knee + (ankle - knee).normalized() * body.shank();
    f.landmark[index(sided(Landmark::LeftAnkle, side))] = shankEnd;
    // A foot in the air comes along.
    const Vector3d along = (shankEnd - ankle) * clampTo(pose.foot[side].lift / 0.03, 0, 1);
    for (Landmark l : {Landmark::LeftHeel, Landmark::LeftToe})
        f.landmark[index(sided(l, side))] += along;
    f.of(sided(Bone::LeftFoot, side)).origin += along;
    f.of(sided(Bone::LeftThigh, side)) = {frameAlong(hip - knee, forward), hip};
    f.of(sided(Bone::LeftShank, side)) = {frameAlong(knee - shankEnd, forward), knee};
}

double shareLeft(const Figure& f, MassTable mass)
{
    const Vector3d com = centreOfMass(f.landmark, mass);
    const Vector3d left = 0.5 * (f.at(Landmark::LeftHeel) + f.at(Landmark::LeftToe)),
                   right = 0.5 * (f.at(Landmark::RightHeel) + f.at(Landmark::RightToe));
    Vector3d line = left - right;
    line.z() = 0;
    return (com - right).dot(line) / line.squaredNorm();
}

/// The highest mid-hip, up to a wish, that both standing legs still reach from where the pelvis is. A foot
/// that leaves the floor holds it down less and less.
double reachableHeight(const Figure& f, const BodyShape& body, const Pose& pose, const Vector3d& midHip,
                       double wished)
{
    const double leg = (body.thigh() + body.shank()) * pose.legReach;
    double height = 10;
    for (Side side : {Side::Left, Side::Right}) {
        const Vector3d hip = midHip + headingRight(pose.pelvisHeading) * outward(side) * body.hipHalfWidth();
        const Vector3d& ankle = f.at(sided(Landmark::LeftAnkle, side));
        const double flat = (hip - ankle).head<2>().norm();
        const double reached = ankle.z() + std::sqrt(std::max(0.01, leg * leg - flat * flat));
        height =
            std::min(height, reached + released(pose.foot[side]) * std::max(0.0, wished + 0.02 - reached));
    }
    return height;
}

} // namespace

Figure poseFigure(const BodyShape& body, const Pose& pose)
{
    Figure f;
    f.scale = body.scale();
    f.armLength = body.upperArm() + body.forearm();
    f.standingHip = body.standingHipHeight();
    f.footBreadth = body.footBreadth();
    f.footLength = body.footLength();
    f.shoulderWidth = 2 * body.shoulderHalfWidth();
    f.shoulderToEar = (kNeck + kHeadCentre.z() + kEar.z()) * body.scale();
    placeFeet(f, body, pose);
    const Vector3d left = 0.5 * (f.at(Landmark::LeftHeel) + f.at(Landmark::LeftToe)),
                   right = 0.5 * (f.at(Landmark::RightHeel) + f.at(Landmark::RightToe));
    const Vector3d target = mix(right, left, pose.weightLeft) + headingRight(pose.pelvisHeading) * pose.sway;
    Vector3d midHip(target.x(), target.y(), pose.pelvisHeight * body.standingHipHeight());
    const double wished = midHip.z();
    placeTrunk(f, body, pose, midHip);
    placeHead(f, body, pose);
    for (Side side : {Side::Left, Side::Right})
        placeArm(f, body, pose, side);
    for (int round = 0; round < 7; ++round) {
        // A soft minimum, so that meeting the legs' reach does not jerk the pelvis.
        const double soft = 0.012 * clampTo((1 - pose.legReach) / 0.008, 0, 1) + 1e-4;
        const double limit = reachableHeight(f, body, pose, midHip, wished);
        midHip.z() = 0.5 * (wished + limit - std::sqrt((wished - limit) * (wished - limit) + soft * soft));
        placeFeet(f, body, pose);
        carryUpperBody(f, midHip);
        for (Side side : {Side::Left, Side::Right})
            placeLeg(f, body, pose, side);
        f.centreOfMass = centreOfMass(f.landmark, body.mass);
        Vector3d miss = target - f.centreOfMass;
        miss.z() = 0;
        if (round < 6) midHip += miss / 0.85;
    }
    const bool leftUp = pose.foot[Side::Left].offFloor(), rightUp = pose.foot[Side::Right].offFloor();
    f.weightLeft = leftUp != rightUp ? (rightUp ? 1 : 0) : clampTo(shareLeft(f, body.mass), 0, 1);
    return f;
}

} // namespace jl
