#include "render/skin_mesh.h"
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector3d;
using Eigen::Vector3f;

namespace
{

/// Arms and legs spread, so that no part touches another.
Pose spreadPose(const BodyShape& body)
{
    Pose p;
    const double apart = 0.17 * body.scale();
    p.foot[Side::Left].heel = {-apart, 0};
    p.foot[Side::Right].heel = {apart, 0};
    p.pelvisHeight = 0.97;
    for (Side s : {Side::Left, Side::Right}) {
        p.hand[s].place = {0.50, 0.06, 28};
        p.hand[s].palm = {-0.7, 0, -0.7};
    }
    return p;
}

/// Values of a group's field on a regular grid.
struct Grid {
    Vector3d origin;
    double cell;
    int nx, ny, nz;
    std::vector<float> value;

    std::size_t index(int x, int y, int z) const { return (static_cast<std::size_t>(z) * ny + y) * nx + x; }
    Vector3d point(int x, int y, int z) const { return origin + cell * Vector3d(x, y, z); }
};

Grid sampled(const SolidGroup& group)
{
    Vector3d low = Vector3d::Constant(1e9), high = -low;
    for (const Solid& s : group.solids) {
        const double r = s.ellipsoid ? s.radii.maxCoeff() : std::max(s.radiusA, s.radiusB);
        for (const Vector3d& p : {s.a, s.ellipsoid ? s.a : s.b}) {
            low = low.cwiseMin(p - Vector3d::Constant(r));
            high = high.cwiseMax(p + Vector3d::Constant(r));
        }
    }
    const double margin = group.blend + 2 * group.cell;
    Grid g;
    g.cell = group.cell;
    g.origin = low - Vector3d::Constant(margin);
    const Vector3d size = (high - low + Vector3d::Constant(2 * margin)) / g.cell;
    g.nx = static_cast<int>(size.x()) + 2;
    g.ny = static_cast<int>(size.y()) + 2;
    g.nz = static_cast<int>(size.z()) + 2;
    g.value.assign(static_cast<std::size_t>(g.nx) * g.ny * g.nz, 1.f);
    // Coarse blocks first: a block whose middle is far from the surface keeps that one value's sign.
    constexpr int block = 4;
    const double reach = g.cell * block * 0.5 * std::sqrt(3.0) + group.blend;
    for (int z = 0; z < g.nz; z += block) {
        for (int y = 0; y < g.ny; y += block) {
            for (int x = 0; x < g.nx; x += block) {
                const double middle =
                    group.sample(g.point(x, y, z) + Vector3d::Constant(0.5 * block * g.cell)).distance;
                const bool far = std::abs(middle) > reach + g.cell;
                for (int k = z; k < std::min(z + block, g.nz); ++k)
                    for (int j = y; j < std::min(y + block, g.ny); ++j)
                        for (int i = x; i < std::min(x + block, g.nx); ++i)
                            g.value[g.index(i, j, k)] =
                                static_cast<float>(far ? middle : group.sample(g.point(i, j, k)).distance);
            }
        }
    }
    return g;
}

} // namespace

/// Naive surface nets: one vertex in every cell that the surface crosses, at the mean of its edge crossings;
/// one quad for every grid edge that the surface crosses.
void SkinMesh::addSurface(const SolidGroup& group)
{
    const Grid g = sampled(group);
    std::vector<std::int32_t> vertexOf(g.value.size(), -1);
    const auto inside = [&](int x, int y, int z) { return g.value[g.index(x, y, z)] < 0; };
    for (int z = 0; z + 1 < g.nz; ++z) {
        for (int y = 0; y + 1 < g.ny; ++y) {
            for (int x = 0; x + 1 < g.nx; ++x) {
                Vector3d sum = Vector3d::Zero();
                int crossings = 0;
                for (int e = 0; e < 12; ++e) {
                    // Edge e runs along axis e / 4; its other two coordinates are the two low bits of e.
                    const int axis = e / 4, u = e & 1, v = (e >> 1) & 1;
                    int a[3] = {x, y, z};
                    a[(axis + 1) % 3] += u;
                    a[(axis + 2) % 3] += v;
                    int b[3] = {a[0], a[1], a[2]};
                    b[axis] += 1;
                    const double va = g.value[g.index(a[0], a[1], a[2])],
                                 vb = g.value[g.index(b[0], b[1], b[2])];
                    if ((va < 0) == (vb < 0)) continue;
                    const double share = va / (va - vb);
                    sum += (1 - share) * g.point(a[0], a[1], a[2]) + share * g.point(b[0], b[1], b[2]);
                    ++crossings;
                }
                if (crossings == 0) continue;
                const Vector3d p = sum / crossings;
                vertexOf[g.index(x, y, z)] = static_cast<std::int32_t>(m_positions.size());
                m_positions.push_back(p.cast<float>());
                m_colours.push_back(group.sample(p).nearest->colour);

                // Bind to the bones whose solids are nearest, with weights that fall off over a few
                // centimetres.
                std::array<double, kBoneCount> distance;
                distance.fill(1e9);
                for (const Solid& s : group.solids) {
                    double& d = distance[static_cast<std::size_t>(s.bone)];
                    d = std::min(d, s.distance(p));
                }
                std::array<std::size_t, kBoneCount> order;
                for (std::size_t i = 0; i < kBoneCount; ++i)
                    order[i] = i;
                std::partial_sort(order.begin(), order.begin() + 3, order.end(),
                                  [&](std::size_t a, std::size_t b) { return distance[a] < distance[b]; });
                Binding binding{};
                float total = 0;
                for (int i = 0; i < 3; ++i) {
                    const double gap = (distance[order[i]] - distance[order[0]]) / 0.028;
                    binding.bone[i] = static_cast<std::uint8_t>(order[i]);
                    binding.weight[i] = static_cast<float>(std::exp(-gap * gap));
                    total += binding.weight[i];
                }
                for (float& w : binding.weight)
                    w /= total;
                m_bindings.push_back(binding);
            }
        }
    }
    const auto quad = [&](bool flip, std::int32_t a, std::int32_t b, std::int32_t c, std::int32_t d) {
        if (a < 0 || b < 0 || c < 0 || d < 0) return;
        if (flip) std::swap(b, d);
        const auto t = [](std::int32_t i, std::int32_t j, std::int32_t k) {
            return Triangle{static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(j),
                            static_cast<std::uint32_t>(k)};
        };
        m_triangles.push_back(t(a, b, c));
        m_triangles.push_back(t(a, c, d));
    };
    for (int z = 1; z + 1 < g.nz; ++z) {
        for (int y = 1; y + 1 < g.ny; ++y) {
            for (int x = 1; x + 1 < g.nx; ++x) {
                const bool in = inside(x, y, z);
                const auto v = [&](int i, int j, int k) { return vertexOf[g.index(i, j, k)]; };
                if (in != inside(x + 1, y, z))
                    quad(!in, v(x, y - 1, z - 1), v(x, y, z - 1), v(x, y, z), v(x, y - 1, z));
                if (in != inside(x, y + 1, z))
                    quad(!in, v(x - 1, y, z - 1), v(x - 1, y, z), v(x, y, z), v(x, y, z - 1));
                if (in != inside(x, y, z + 1))
                    quad(!in, v(x - 1, y - 1, z), v(x, y - 1, z), v(x, y, z), v(x - 1, y, z));
            }
        }
    }
}

SkinMesh SkinMesh::build(const BodyShape& body)
{
    SkinMesh mesh;
    const Figure spread = poseFigure(body, spreadPose(body));
    mesh.m_bind = spread.bone;
    for (const SolidGroup& group : dressedBody(body, spread))
        mesh.addSurface(group);
    return mesh;
}

void SkinMesh::bend(const Figure& figure, std::vector<Vector3f>& positions,
                    std::vector<Vector3f>& normals) const
{
    std::array<Eigen::Matrix3f, kBoneCount> turn;
    std::array<Vector3f, kBoneCount> move;
    for (std::size_t b = 0; b < kBoneCount; ++b) {
        const Eigen::Matrix3d r = figure.bone[b].rotation * m_bind[b].rotation.transpose();
        turn[b] = r.cast<float>();
        move[b] = (figure.bone[b].origin - r * m_bind[b].origin).cast<float>();
    }
    positions.resize(m_positions.size());
    normals.assign(m_positions.size(), Vector3f::Zero());
    for (std::size_t i = 0; i < m_positions.size(); ++i) {
        const Binding& k = m_bindings[i];
        Vector3f p = Vector3f::Zero();
        for (int j = 0; j < 3; ++j)
            if (k.weight[j] > 0.004f) p += k.weight[j] * (turn[k.bone[j]] * m_positions[i] + move[k.bone[j]]);
        positions[i] = p;
    }
    for (const Triangle& t : m_triangles) {
        const Vector3f n = (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]);
        for (std::uint32_t v : t)
            normals[v] += n;
    }
    for (Vector3f& n : normals)
        n.normalize();
}

} // namespace jl
