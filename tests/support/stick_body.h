#pragma once
#include "body/body_points.h"

/// A body of straight sticks whose every measure can be told by hand: facing heading 0 (+y), the origin under
/// it, feet parallel and 0.30 m apart, trunk 0.50 m, everything vertical; m.
inline jl::BodyPoints stickBody()
{
    using enum jl::Landmark;
    jl::BodyPoints p;
    p.fill(Eigen::Vector3d::Zero());
    const auto put = [&](jl::Landmark left, double x, double y, double z) {
        p[index(left)] = {-x, y, z};
        p[index(sided(left, jl::Side::Right))] = {x, y, z};
    };
    p[index(Nose)] = {0, 0.10, 1.60};
    put(LeftEar, 0.08, 0, 1.61);
    put(LeftShoulder, 0.18, 0, 1.42);
    put(LeftElbow, 0.18, 0, 1.14);
    put(LeftWrist, 0.18, 0, 0.88);
    put(LeftHip, 0.10, 0, 0.92);
    put(LeftKnee, 0.13, 0, 0.50);
    put(LeftAnkle, 0.15, 0, 0.09);
    put(LeftHeel, 0.15, -0.06, 0.03);
    put(LeftToe, 0.15, 0.20, 0.025);
    return p;
}

inline jl::BodyLengths stickLengths()
{
    return {0.54, 0.92, 0.19, 0.03, 0.025, 0.08};
}
