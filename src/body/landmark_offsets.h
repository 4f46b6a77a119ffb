#pragma once
#include "base/result.h"
#include "body/hip_line.h"
#include <filesystem>

namespace jl
{

/// Body points where a landmark network puts them, in the room frame, m: the toe point inside the shoe, and
/// so on. A type of its own, so that they are not measured for anatomical points by mistake.
struct NetworkPoints {
    BodyPoints at;

    Eigen::Vector3d& operator[](std::size_t i) { return at[i]; }
    const Eigen::Vector3d& operator[](std::size_t i) const { return at[i]; }
};

/// Where the network puts its points against the anatomical ones: along axes of the body part, in m for a
/// height of 1.70 m. The toe point, for instance, lies inside the shoe. Shoulders and elbows also go
/// along with the limb below them: a shoulder's point rises with the arm. Offset = constant + follow
/// x direction of the limb, both in the axes of the part. The table is measured by `validate` on rendered
/// bodies with exact truth and kept in data/measure/landmark-offsets.json.
class LandmarkOffsets
{
public:
    LandmarkOffsets()
    {
        m_offset.fill(Eigen::Vector3d::Zero());
        m_follow.fill(Eigen::Matrix3d::Zero());
    }
    static Result<LandmarkOffsets> load(const std::filesystem::path& folder);

    /// Anatomical points to points as the network sees them, and back. The axes of the parts are taken from
    /// the points themselves: feet (out, forward, up), trunk (out, forward, up) for all the rest. Forward of
    /// the trunk is square to the shoulder line.
    NetworkPoints toNetwork(const BodyPoints& anatomical, double height) const;
    BodyPoints toAnatomy(const NetworkPoints& network, double height) const;

    /// How far apart the two hips are drawn besides.
    const HipLine& hipLine() const { return m_hipLine; }
    LandmarkOffsets withoutHipLine() const;

    /// The constant part.
    Eigen::Vector3d of(Landmark l) const { return m_offset[index(l)]; }

private:
    BodyPoints moved(const BodyPoints& points, double factor) const;
    std::array<Eigen::Vector3d, kLandmarkCount> m_offset;
    std::array<Eigen::Matrix3d, kLandmarkCount> m_follow;
    HipLine m_hipLine;
};

} // namespace jl
