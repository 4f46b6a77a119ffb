#include "draw/floor_fan.h"

namespace jl
{

std::vector<QLineF> floorFan(const BodyPoints& body, const Camera& camera, const Eigen::Vector2d& shift,
                             double heading)
{
    constexpr double radius = 0.55; // m
    Eigen::Vector3d middle = 0.5 * (body[index(Landmark::LeftAnkle)] + body[index(Landmark::RightAnkle)]);
    middle.z() = 0;
    const auto pixel = [&](const Eigen::Vector3d& p) {
        const Eigen::Vector2d at = camera.project(p) + shift;
        return QPointF(at.x(), at.y());
    };
    constexpr int directions = 8;
    std::vector<QLineF> fan;
    fan.reserve(directions);
    for (int i = 0; i < directions; ++i)
        fan.emplace_back(pixel(middle), pixel(middle + radius * forwardOf(heading + 45 * i)));
    return fan;
}

} // namespace jl
