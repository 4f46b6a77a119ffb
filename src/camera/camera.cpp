#include "camera/camera.h"
#include "base/angles.h"
#include <Eigen/Geometry>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;

Camera Camera::looking(const Vector3d& target, double azimuth, double elevation, double distance, double roll)
{
    const double az = azimuth * kRadPerDeg, el = elevation * kRadPerDeg;
    Camera c;
    c.position =
        target + distance * Vector3d(std::sin(az) * std::cos(el), std::cos(az) * std::cos(el), std::sin(el));
    const Vector3d z = (target - c.position).normalized();
    const Vector3d x = z.cross(Vector3d::UnitZ()).normalized();
    const Vector3d y = z.cross(x);
    Eigen::Matrix3d level;
    level << x.transpose(), y.transpose(), z.transpose();
    c.rotation = Eigen::AngleAxisd(roll * kRadPerDeg, Vector3d::UnitZ()).toRotationMatrix() * level;
    return c;
}

Vector2d Camera::project(const Vector3d& room) const
{
    const Vector3d p = toCamera(room);
    return centre + focal * p.head<2>() / p.z();
}

Vector3d Camera::ray(const Vector2d& pixel) const
{
    const Vector2d d = (pixel - centre) / focal;
    return rotation.transpose() * Vector3d(d.x(), d.y(), 1);
}

Vector3d Camera::onPlane(const Vector2d& pixel, const Vector3d& normal, double offset) const
{
    const Vector3d direction = ray(pixel);
    return position + direction * ((offset - normal.dot(position)) / normal.dot(direction));
}

} // namespace jl
