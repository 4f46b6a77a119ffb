#include "measure/landmark_offsets.h"
#include "base/json_file.h"
#include "measure/part_axes.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <optional>

namespace jl
{

using Eigen::Vector3d;

Eigen::Matrix3d partAxes(const BodyPoints& points, Landmark l)
{
    const auto at = [&](Landmark k) { return points[index(k)]; };
    const bool right = mirrored(l) < l; // of a pair, the right member comes second
    const Side side = right ? Side::Right : Side::Left;
    using enum Landmark;
    Vector3d forward;
    if (index(l) >= index(LeftKnee)) {
        forward = at(sided(LeftToe, side)) - at(sided(LeftHeel, side));
    } else {
        const Vector3d across = at(RightShoulder) + at(RightHip) - at(LeftShoulder) - at(LeftHip);
        forward = Vector3d::UnitZ().cross(across);
    }
    forward.z() = 0;
    if (forward.norm() < 1e-6) forward = Vector3d::UnitY();
    forward.normalize();
    Eigen::Matrix3d axes;
    axes << forward.cross(Vector3d::UnitZ()) * (right ? 1 : -1), forward, Vector3d::UnitZ();
    return axes;
}

Vector3d limbDirection(const BodyPoints& points, Landmark joint)
{
    using enum Landmark;
    const Landmark left = std::min(joint, mirrored(joint));
    std::optional<Landmark> below;
    if (left == LeftShoulder) below = LeftElbow;
    if (left == LeftElbow) below = LeftWrist;
    if (!below) return Vector3d::Zero();
    const Landmark end = joint == left ? *below : mirrored(*below);
    const Vector3d limb = points[index(end)] - points[index(joint)];
    return partAxes(points, joint).transpose() * limb / std::max(1e-6, limb.norm());
}

BodyPoints LandmarkOffsets::moved(const BodyPoints& points, double factor) const
{
    BodyPoints out = points;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        if (m_offset[i].isZero()) continue;
        const auto l = static_cast<Landmark>(i);
        Vector3d offset = m_offset[i];
        if (!m_follow[i].isZero()) offset += m_follow[i] * limbDirection(points, l);
        out[i] += factor * (partAxes(points, l) * offset);
    }
    return out;
}

BodyPoints LandmarkOffsets::toNetwork(const BodyPoints& anatomical, double height) const
{
    return moved(anatomical, height / 1.70);
}

BodyPoints LandmarkOffsets::toAnatomy(const BodyPoints& network, double height) const
{
    return moved(network, -height / 1.70);
}

Result<LandmarkOffsets> LandmarkOffsets::load(const std::filesystem::path& folder)
{
    const auto file = folder / "measure/landmark-offsets.json";
    const auto json = readJson(file);
    if (!json) return json.error();
    LandmarkOffsets table;
    try {
        for (std::size_t i = 0; i < kLandmarkCount; ++i) {
            const auto l = static_cast<Landmark>(i);
            // Both sides share one row, named by the left landmark.
            const auto name = std::string(landmarkName(std::min(l, mirrored(l))));
            const auto row = json->find(name);
            if (row == json->end()) continue;
            const bool follows = row->is_object();
            const auto& offset = follows ? row->at("offset") : *row;
            for (int k = 0; k < 3; ++k) {
                table.m_offset[i][k] = offset.at(k).get<double>();
                for (int c = 0; follows && c < 3; ++c)
                    table.m_follow[i](k, c) = row->at("follow").at(k).at(c).get<double>();
            }
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("an offset is not three numbers: ") + e.what(),
                     file.string(), "Take the shipped file again."};
    }
    return table;
}

} // namespace jl
