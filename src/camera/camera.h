#pragma once
#include "base/units.h"
#include <Eigen/Core>

namespace jl
{

/// A pinhole camera in the room frame (right-handed, z up, floor z = 0; heading 0 = +y, 90 = +x). Camera
/// axes: x right in the picture, y down, z into the scene. Square pixels, no distortion.
struct Camera {
    Eigen::Matrix3d rotation = Eigen::Matrix3d::Identity(); ///< rows are the camera axes in the room
    Eigen::Vector3d position = Eigen::Vector3d::Zero();     ///< m
    Pixels focal = 1150;                                    ///< pixels
    Eigen::Vector2d centre{640, 360};                       ///< principal point, pixels

    /// A camera that stands in the direction `azimuth` from the target (deg, a heading: 0 = in front of a
    /// performer who faces heading 0, 90 = on the performer's right), raised by `elevation` (deg), turned
    /// about its axis by `roll` (deg, clockwise on screen), and looks at the target. focal and centre are
    /// left as they are.
    static Camera looking(const Eigen::Vector3d& target, double azimuth, double elevation, double distance,
                          double roll = 0);

    Eigen::Vector3d toCamera(const Eigen::Vector3d& room) const { return rotation * (room - position); }
    Eigen::Vector2d project(const Eigen::Vector3d& room) const;
    /// Direction of the ray through a pixel, room frame, not normalised.
    Eigen::Vector3d ray(const Eigen::Vector2d& pixel) const;
    /// Where the ray through a pixel meets the plane of points x with normal . x = offset.
    Eigen::Vector3d onPlane(const Eigen::Vector2d& pixel, const Eigen::Vector3d& normal, double offset) const;
};

/// Focal length over the longer picture side that is assumed where nothing is known: an ordinary phone's or
/// camera's main lens in video mode, about 58 degrees across; such lenses lie within about 10 percent (1 sd).
inline constexpr Ratio kUsualFocalShare = 0.90;
inline constexpr Ratio kFocalSpread = 0.08;

/// What is known of a lens before the picture is looked at.
struct LensPrior {
    Ratio focalShare = kUsualFocalShare; ///< focal length over the longer picture side
    Ratio spread = kFocalSpread;         ///< of the focal length, relative, 1 sd
};

} // namespace jl
