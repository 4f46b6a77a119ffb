#include "body/landmark_offsets.h"
#include "base/json_file.h"
#include "body/part_axes.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <optional>

namespace jl
{

using Eigen::Vector3d;

namespace
{

/// The parts whose directions offsets are given in.
enum Part { Trunk, LeftFoot, RightFoot, kPartCount };

bool isRight(Landmark l)
{
    return mirrored(l) < l; // of a pair, the right member comes second
}

Part partOf(Landmark l)
{
    if (index(l) < index(Landmark::LeftKnee)) return Trunk;
    return isRight(l) ? RightFoot : LeftFoot;
}

/// Level, of unit length.
Vector3d forwardOf(const BodyPoints& points, Part part)
{
    const auto at = [&](Landmark k) { return points[index(k)]; };
    using enum Landmark;
    const Side side = part == RightFoot ? Side::Right : Side::Left;
    Vector3d forward =
        part == Trunk
            ? Vector3d::UnitZ().cross(at(RightShoulder) + at(RightHip) - at(LeftShoulder) - at(LeftHip))
            : at(sided(LeftToe, side)) - at(sided(LeftHeel, side));
    forward.z() = 0;
    const double length = forward.norm();
    return length < 1e-6 ? Vector3d::UnitY() : Vector3d(forward / length);
}

Eigen::Matrix3d axesOf(const Vector3d& forward, bool right)
{
    Eigen::Matrix3d axes;
    axes << forward.cross(Vector3d::UnitZ()) * (right ? 1 : -1), forward, Vector3d::UnitZ();
    return axes;
}

} // namespace

Eigen::Matrix3d partAxes(const BodyPoints& points, Landmark l)
{
    return axesOf(forwardOf(points, partOf(l)), isRight(l));
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
    std::array<Vector3d, kPartCount> forward;
    for (int part = 0; part < kPartCount; ++part)
        forward[part] = forwardOf(points, static_cast<Part>(part));
    BodyPoints out = points;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        if (m_offset[i].isZero()) continue;
        const auto l = static_cast<Landmark>(i);
        Vector3d offset = m_offset[i];
        if (!m_follow[i].isZero()) offset += m_follow[i] * limbDirection(points, l);
        const Vector3d& ahead = forward[partOf(l)];
        const double aside = isRight(l) ? offset.x() : -offset.x();
        out[i] += factor * Vector3d(ahead.y() * aside + ahead.x() * offset.y(),
                                    -ahead.x() * aside + ahead.y() * offset.y(), offset.z());
    }
    return out;
}

NetworkPoints LandmarkOffsets::toNetwork(const BodyPoints& anatomical, double height) const
{
    return {moved(anatomical, height / 1.70)};
}

BodyPoints LandmarkOffsets::toAnatomy(const NetworkPoints& network, double height) const
{
    return moved(network.at, -height / 1.70);
}

LandmarkOffsets LandmarkOffsets::withoutHipLine() const
{
    LandmarkOffsets offsets = *this;
    offsets.m_hipLine = {};
    return offsets;
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
        if (const auto hips = json->find("hip_line"); hips != json->end())
            table.m_hipLine = {hips->at("along").get<double>(), hips->at("hidden").get<double>()};
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("an offset is not three numbers: ") + e.what(),
                     file.string(), "Take the shipped file again."};
    }
    return table;
}

} // namespace jl
