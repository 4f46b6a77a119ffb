#pragma once
#include "body/landmark.h"
#include <Eigen/Core>
#include <array>
#include <optional>

namespace jl
{

/// Left and right of something; indexed by Side.
template <class T>
struct Pair {
    std::array<T, 2> of{};
    T& operator[](Side s) { return of[static_cast<std::size_t>(s)]; }
    const T& operator[](Side s) const { return of[static_cast<std::size_t>(s)]; }
};

/// Headings are degrees clockwise from above in the room frame (z up, heading 0 = +y, 90 = +x).
struct FootPose {
    Eigen::Vector2d heel{0, 0}; ///< heel point over the floor, m
    double heading = 0;
    double lift = 0;     ///< height of the whole foot, m
    double pitch = 0;    ///< deg: toes up about the heel when positive, heel up about the ball when negative
    bool onBall = false; ///< reached by turning on the ball: the ball stayed and the heel went round

    bool onFloor() const { return lift < 0.003; }
    bool offFloor() const { return lift > 0.02; } ///< clearly in the air
};

struct HandPose {
    Eigen::Vector3d place{0.2, 0.1, 0}; ///< out to the hand's own side (m), in front of the thorax plane (m),
                                        ///< height on the torso scale (%)
    Eigen::Vector3d palm{0, 0, -1};     ///< palm normal in the thorax frame: outward to own side, forward, up
    double elbowOut = 0;                ///< deg the elbow is swung out from hanging
    double curl = 0;                    ///< deg the fingers are bent at the knuckles: 0 open, a fist closed
    double drop = 0;                    ///< deg the wrist is bent towards the palm, as in a hook
};

/// Everything that decides where the body is at one moment; solved into joints by poseFigure().
struct Pose {
    Pair<FootPose> foot;
    double weightLeft = 0.5; ///< share of the weight on the left leg, 0 to 1
    double pelvisHeading = 0;
    double pelvisHeight = 0.9; ///< wished mid-hip height, share of standing (the legs' reach may lower it)
    double legReach = 0.992;   ///< share of a leg's length that a standing leg stretches to; 1 is locked
    double sway = 0;           ///< m the centre of mass is carried to the right of where the weight has it
    double leanDirection = 0;  ///< heading along which leanForward counts (the posture's direction)
    double leanForward = 0, leanSide = 0; ///< deg
    double pelvisTilt = 0;                ///< deg, right hip higher when positive
    double thoraxHeading = 0;
    double shoulderTilt = 0; ///< deg, right shoulder higher when positive
    double shrug = 0;        ///< how far both shoulders are drawn up, share of the height shoulder to ear
    double round = 0;        ///< deg the neck bends forward out of the trunk's line
    double headHeading = 0, headPitch = 0; ///< deg; pitch positive down
    double headTilt = 0;                   ///< deg, right ear higher when positive
    Pair<HandPose> hand;
    Pair<double> kneeTrack; ///< where the knee's plumb falls beside the foot axis, m, outward positive
};

} // namespace jl
