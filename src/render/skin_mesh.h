#pragma once
#include "render/field.h"
#include <array>
#include <cstdint>

namespace jl
{

/// The surface of a dressed body, made once in a spread pose and bent to any figure by linear blend skinning.
class SkinMesh
{
public:
    /// Polygonises the body's solids by surface nets and binds every vertex to its nearest bones.
    static SkinMesh build(const BodyShape& body);

    using Triangle = std::array<std::uint32_t, 3>;
    const std::vector<Triangle>& triangles() const { return m_triangles; }
    const std::vector<Eigen::Vector3f>& colours() const { return m_colours; }

    /// Vertex positions (m, room frame) and unit normals for a figure of the same body.
    void bend(const Figure& figure, std::vector<Eigen::Vector3f>& positions,
              std::vector<Eigen::Vector3f>& normals) const;

private:
    void addSurface(const SolidGroup& group);

    struct Binding {
        std::array<std::uint8_t, 3> bone;
        std::array<float, 3> weight;
    };
    std::vector<Eigen::Vector3f> m_positions, m_colours;
    std::vector<Binding> m_bindings;
    std::vector<Triangle> m_triangles;
    std::array<BoneFrame, kBoneCount> m_bind;
};

} // namespace jl
