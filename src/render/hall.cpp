#include "render/hall.h"
#include <algorithm>
#include <cmath>
#include <cstdint>

namespace jl
{

using Eigen::Vector3d;
using Eigen::Vector3f;

const std::vector<Hall>& halls()
{
    static const std::vector<Hall> all{
        {"evening",
         "School hall, evening",
         {.60f, .44f, .29f},
         {.73f, .73f, .70f},
         {.86f, .85f, .82f},
         {1.0f, .97f, .92f}},
        {"morning",
         "School hall, morning",
         {.55f, .46f, .36f},
         {.78f, .79f, .78f},
         {.60f, .52f, .44f},
         {.97f, 1.0f, 1.03f},
         {-0.5, 0.4, 1.0}},
        {"studio",
         "Plain studio",
         {.46f, .45f, .43f},
         {.66f, .67f, .68f},
         {.50f, .50f, .50f},
         {1, 1, 1},
         {0.2, 0.5, 1.3},
         5.2,
         3.1,
         false},
    };
    return all;
}

namespace
{

float hash(int x, int y)
{
    auto h = static_cast<std::uint32_t>(x) * 374761393u + static_cast<std::uint32_t>(y) * 668265263u;
    h = (h ^ (h >> 13)) * 1274126177u;
    return static_cast<float>((h ^ (h >> 16)) & 0xffffu) / 65535.f;
}

/// Smooth noise in the plane, 0 to 1.
float noise(double x, double y)
{
    const int ix = static_cast<int>(std::floor(x)), iy = static_cast<int>(std::floor(y));
    const auto ease = [](double t) { return static_cast<float>(t * t * (3 - 2 * t)); };
    const float fx = ease(x - ix), fy = ease(y - iy);
    const float low = hash(ix, iy) + fx * (hash(ix + 1, iy) - hash(ix, iy));
    const float high = hash(ix, iy + 1) + fx * (hash(ix + 1, iy + 1) - hash(ix, iy + 1));
    return low + fy * (high - low);
}

Vector3f planks(const Hall& hall, double x, double y)
{
    const double width = 0.16;
    const double row = std::floor(x / width);
    const double length = y / 1.5 + 0.37 * row;
    const float tone = 0.86f + 0.20f * hash(static_cast<int>(row), static_cast<int>(std::floor(length)));
    const float grain = 0.96f + 0.08f * noise(x * 38, y * 2.4 + row * 7);
    const double seam = x / width - row;
    const bool joint = seam < 0.03 || length - std::floor(length) < 0.004;
    return hall.floor * tone * grain * (joint ? 0.80f : 1.f);
}

Vector3f wallColour(const Hall& hall, double along, double z)
{
    if (z < 0.12) return hall.skirting;
    Vector3f c = hall.wall * (0.97f + 0.05f * noise(along * 1.7, z * 1.7));
    if (hall.scroll) {
        // A hanging with a plain brushed hill, left of the middle.
        const double u = along + 1.6, v = z - 1.75;
        if (std::abs(u) < 0.32 && std::abs(v) < 0.62) {
            c = Vector3f(.86f, .82f, .72f);
            if (std::abs(u) < 0.25 && std::abs(v) < 0.5) {
                const double hill = -0.1 + 0.16 * std::sin(3.1 * u + 0.6) + 0.05 * std::sin(11 * u);
                c = v < hill ? Vector3f(.42f, .48f, .46f) : Vector3f(.90f, .88f, .80f);
            }
        }
    }
    return c;
}

} // namespace

Vector3f hallColour(const Hall& hall, const Vector3d& from, const Vector3d& direction)
{
    // Where the ray leaves the box of the hall; walls between the camera and the hall are not drawn.
    const Vector3d low(-hall.halfSize, -hall.halfSize, 0), high(hall.halfSize, hall.halfSize, hall.ceiling);
    double nearest = 1e9;
    int side = 0;
    for (int axis = 0; axis < 3; ++axis) {
        if (std::abs(direction[axis]) < 1e-9) continue;
        const double t = ((direction[axis] > 0 ? high[axis] : low[axis]) - from[axis]) / direction[axis];
        if (t > 0 && t < nearest) {
            nearest = t;
            side = 2 * axis + (direction[axis] > 0 ? 1 : 0);
        }
    }
    const Vector3d p = from + nearest * direction;
    Vector3f c;
    if (side == 4)
        c = planks(hall, p.x(), p.y());
    else if (side == 5)
        c = Vector3f(.88f, .88f, .86f);
    else
        c = wallColour(hall, side < 2 ? p.y() : p.x(), p.z()) * (side == 0 || side == 3 ? 1.f : 0.93f);
    // Corners and the far floor are a little darker.
    const double corner = std::min({hall.halfSize - std::abs(p.x()), hall.halfSize - std::abs(p.y()), 1.0});
    const float shade = side == 4 ? static_cast<float>(0.86 + 0.14 * std::clamp(corner, 0.0, 1.0)) : 1.f;
    return (c * shade).cwiseProduct(hall.light).cwiseMin(1.f);
}

} // namespace jl
