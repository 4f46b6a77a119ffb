#pragma once
#include "base/result.h"
#include "body/mass_model.h"
#include <Eigen/Core>
#include <filesystem>
#include <string>
#include <vector>

namespace jl
{

/// Colours (linear-ish RGB, 0 to 1) and dress of a performer.
struct Dress {
    Eigen::Vector3f skin{.82f, .60f, .47f}, hair{.12f, .08f, .06f}, jacket{.55f, .18f, .16f},
        trousers{.16f, .17f, .2f}, shoes{.12f, .12f, .13f};
    double looseness = 1; ///< 0 close-fitting, 1 practice clothes
    bool longHair = false;
};

/// One person of the built-in performer. Lengths follow from the height and a few proportions.
struct BodyShape {
    std::string id;
    std::string name;
    MassTable mass = MassTable::Mean;
    double height = 1.70; ///< m
    double legShare = 1;  ///< leg length against the usual share of the height
    double armShare = 1;
    double hipShare = 1; ///< hip width
    double shoulderShare = 1;
    double build = 1;         ///< girth against the usual
    double stoop = 0;         ///< deg the upper back and neck are rounded, as age does
    double kneeLimit = 180;   ///< deg, furthest bend of a knee
    double hipTurnLimit = 90; ///< deg a foot turns out of the pelvis' direction
    bool kicks = true;        ///< false: a touch with the toes instead
    Dress dress;

    /// Bone lengths, m.
    double scale() const { return height / 1.70; }
    double hipHalfWidth() const { return 0.090 * hipShare * scale(); }
    double shoulderHalfWidth() const { return 0.175 * shoulderShare * scale(); }
    double thigh() const { return 0.410 * legShare * scale(); }
    double shank() const { return 0.410 * legShare * scale(); }
    double upperArm() const { return 0.290 * armShare * scale(); }
    double forearm() const { return 0.250 * armShare * scale(); }
    double ankleHeight() const { return 0.085 * scale(); }
    double pelvisToWaist() const { return 0.120 * scale(); }
    double trunkLength() const; ///< mid-hip to mid-shoulder
    double standingHipHeight() const { return ankleHeight() + thigh() + shank(); }
    double footLength() const { return 0.267 * scale(); }
    double footBreadth() const { return 0.084 * scale(); }
    /// Points of the foot in its own frame (x outward to the right, y forward, z up; origin: floor under the
    /// ankle).
    Eigen::Vector3d heelPoint() const { return Eigen::Vector3d(0, -0.065, 0.030) * scale(); }
    Eigen::Vector3d toePoint() const { return Eigen::Vector3d(0, 0.202, 0.025) * scale(); }
    double heelToBall() const { return ballPoint().y() - heelPoint().y(); }
    Eigen::Vector3d ballPoint() const { return Eigen::Vector3d(0, 0.135, 0.0) * scale(); }
};

/// The ready bodies of data/bodies.json.
Result<std::vector<BodyShape>> loadBodies(const std::filesystem::path& folder);

} // namespace jl
