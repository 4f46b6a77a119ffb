#pragma once
#include "performer/body_shape.h"
#include "performer/pose.h"
#include <Eigen/Geometry>
#include <array>

namespace jl
{

/// A bone's frame: rotation whose columns are its own right, forward and up, and its origin.
struct BoneFrame {
    Eigen::Matrix3d rotation = Eigen::Matrix3d::Identity();
    Eigen::Vector3d origin = Eigen::Vector3d::Zero();
    Eigen::Vector3d place(const Eigen::Vector3d& local) const { return origin + rotation * local; }
};

enum class Bone {
    Pelvis,
    Thorax,
    Head,
    LeftUpperArm,
    RightUpperArm,
    LeftForearm,
    RightForearm,
    LeftHand,
    RightHand,
    LeftFingers, ///< from the knuckles on
    RightFingers,
    LeftThigh,
    RightThigh,
    LeftShank,
    RightShank,
    LeftFoot,
    RightFoot,
};
inline constexpr std::size_t kBoneCount = 17;
constexpr Bone sided(Bone left, Side side)
{
    return side == Side::Left ? left : static_cast<Bone>(static_cast<int>(left) + 1);
}

/// The body solved in the room: exact joint centres and landmarks (m, room frame).
struct Figure {
    std::array<Eigen::Vector3d, kLandmarkCount> landmark{};
    std::array<BoneFrame, kBoneCount> bone{};
    Eigen::Vector3d midHip = Eigen::Vector3d::Zero(), midShoulder = Eigen::Vector3d::Zero();
    double weightLeft = 0; ///< share that the centre of mass really gives the left leg, 0 to 1
    Eigen::Vector3d centreOfMass = Eigen::Vector3d::Zero();
    Eigen::Vector3d velocity = Eigen::Vector3d::Zero(); ///< of the centre of mass, m/s; 0 for a single pose
    /// Of this body: height / 1.70, both arm bones, standing mid-hip height, shoulder to ear when standing,
    /// breadth and length of a shoe, shoulder to shoulder; m.
    double scale = 1, armLength = 0, standingHip = 0, shoulderToEar = 0, footBreadth = 0, footLength = 0,
           shoulderWidth = 0;

    const Eigen::Vector3d& at(Landmark l) const { return landmark[index(l)]; }
    BoneFrame& of(Bone b) { return bone[static_cast<std::size_t>(b)]; }
    const BoneFrame& of(Bone b) const { return bone[static_cast<std::size_t>(b)]; }
};

/// Horizontal unit vectors of a heading (deg): forward, and to its right.
Eigen::Vector3d headingForward(double deg);
Eigen::Vector3d headingRight(double deg);

/// Places the body: feet where the pose puts them, the pelvis where the centre of mass gives the wanted share
/// of the weight and the legs reach, legs and arms by two-bone inverse kinematics.
Figure poseFigure(const BodyShape& body, const Pose& pose);

} // namespace jl
