#pragma once
#include "performer/figure.h"
#include <Eigen/Core>
#include <vector>

namespace jl
{

/// A round solid bound to one bone: a tapered capsule (a to b), or an ellipsoid about a with its own axes.
struct Solid {
    Bone bone = Bone::Pelvis;
    Eigen::Vector3f colour{0, 0, 0};
    bool ellipsoid = false;
    Eigen::Vector3d a = Eigen::Vector3d::Zero(), b = Eigen::Vector3d::Zero();
    double radiusA = 0, radiusB = 0;
    Eigen::Vector3d radii = Eigen::Vector3d::Zero();
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity(); ///< columns

    /// Signed distance to the surface (for an ellipsoid a close estimate), m.
    double distance(const Eigen::Vector3d& p) const;
};

/// Solids that flow into each other: one connected surface.
struct SolidGroup {
    std::vector<Solid> solids;
    double blend = 0.03; ///< width of the smooth union, m
    double cell = 0.011; ///< size of the mesh cells, m

    struct Sample {
        double distance;
        const Solid* nearest;
    };
    Sample sample(const Eigen::Vector3d& p) const;
};

/// The dressed body around a figure: jacket, trousers, head, hands and shoes.
std::vector<SolidGroup> dressedBody(const BodyShape& body, const Figure& figure);

} // namespace jl
