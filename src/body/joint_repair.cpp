#include "body/joint_repair.h"
#include "body/motion.h"
#include <Eigen/Dense>
#include <cmath>
#include <cstdio>

namespace jl
{
namespace
{

using Eigen::MatrixXd;
using Eigen::Vector2d;

constexpr double kReach = 0.25;     ///< s, one standard deviation of a bell
constexpr double kSoftness = 0.02;  ///< how little a repair gives way, against what it moves
constexpr double kPlaced = 0.010;   ///< of the standing body's size: how well a hand places a point
constexpr double kFadedDoubt = 0.5; ///< share of what is no longer moved that may still be wrong
constexpr double kTouched = 0.05;   ///< a bell lower than that moves nothing

double bell(double seconds)
{
    const double z = seconds / kReach;
    return std::exp(-0.5 * z * z);
}

bool isInClip(const Track& track, double time)
{
    return !track.frames.empty() && time >= track.frames.front().time - kReach &&
           time <= track.frames.back().time + kReach;
}

bool showsBody(const Track& track, double time)
{
    return isInClip(track, time) && track.frames[track.nearest(time)].seen;
}

/// Moves one landmark's course.
void repairCourse(Track& track, Landmark l, const std::vector<JointRepair>& repairs, double size)
{
    const auto n = static_cast<Eigen::Index>(repairs.size());
    MatrixXd bells(n, n), wished(n, 2);
    for (Eigen::Index i = 0; i < n; ++i) {
        const JointRepair& r = repairs[static_cast<std::size_t>(i)];
        wished.row(i) = (r.point - track.frames[track.nearest(r.time)].at(l)).transpose();
        for (Eigen::Index k = 0; k < n; ++k)
            bells(i, k) = bell(r.time - repairs[static_cast<std::size_t>(k)].time);
    }
    const MatrixXd heights = (bells + kSoftness * MatrixXd::Identity(n, n)).ldlt().solve(wished);
    for (BodyFrame& f : track.frames) {
        if (!f.seen) continue;
        Vector2d shift(0, 0);
        double nearest = 0;
        for (Eigen::Index i = 0; i < n; ++i) {
            const double b = bell(f.time - repairs[static_cast<std::size_t>(i)].time);
            shift += b * heights.row(i).transpose();
            nearest = std::max(nearest, b);
        }
        if (nearest < kTouched) continue;
        f.point[index(l)] += shift;
        f.visibility[index(l)] = std::max(f.visibility[index(l)], static_cast<float>(nearest));
        const double missing = (1 / std::max(nearest, 0.1) - 1) * shift.norm();
        f.placed[index(l)] = std::hypot(kPlaced * size, kFadedDoubt * missing);
    }
}

} // namespace

Track withRepairs(Track track, std::span<const JointRepair> repairs)
{
    if (track.frames.empty()) return track;
    const double size = standingSize(track);
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        std::vector<JointRepair> own;
        for (const JointRepair& r : repairs)
            if (index(r.landmark) == k && showsBody(track, r.time)) own.push_back(r);
        if (!own.empty()) repairCourse(track, static_cast<Landmark>(k), own, size);
    }
    return track;
}

std::string repairsPassedOver(const Track& track, std::span<const JointRepair> repairs)
{
    std::string said;
    for (const JointRepair& r : repairs) {
        if (showsBody(track, r.time)) continue;
        char line[160];
        std::snprintf(line, sizeof line, "the repair of %s at %.2f s was left out: %s",
                      std::string(landmarkName(r.landmark)).c_str(), r.time,
                      isInClip(track, r.time) ? "no body is found there"
                                              : "the clip does not show that time");
        said += (said.empty() ? "" : "\n") + std::string(line);
    }
    return said;
}

} // namespace jl
