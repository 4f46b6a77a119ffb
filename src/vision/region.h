#pragma once
#include "body/track.h"
#include <Eigen/Core>
#include <algorithm>
#include <cmath>

namespace jl
{

/// A square of the picture that follows the body: turned so that the body stands upright in it.
struct Region {
    Eigen::Vector2d centre{0, 0}; ///< pixels, upright picture
    double size = 0;              ///< side, pixels
    double turn = 0;              ///< rad, clockwise on screen

    /// From the hip centre and a point on the circle around the whole body; enlarged by a quarter as the
    /// landmark networks were trained with.
    static Region around(const Eigen::Vector2d& hip, const Eigen::Vector2d& rim)
    {
        const Eigen::Vector2d d = rim - hip;
        return {hip, 2 * 1.25 * d.norm(), std::atan2(d.x(), -d.y())};
    }

    /// Around a body that was seen before: a circle about the hips through its furthest point. A little
    /// rough; the network's own next region is better.
    static Region around(const BodyFrame& body)
    {
        const Eigen::Vector2d hip = midHip(body);
        double reach = 0;
        for (const Eigen::Vector2d& p : body.point)
            reach = std::max(reach, (p - hip).norm());
        const Eigen::Vector2d up = midShoulder(body) - hip;
        return around(hip, Eigen::Vector2d(hip + up.normalized() * reach));
    }

    /// The linear part of the map from a crop of n pixels a side to the picture.
    Eigen::Matrix2d toPicture(int n) const
    {
        const double k = size / n, c = std::cos(turn) * k, s = std::sin(turn) * k;
        return (Eigen::Matrix2d() << c, -s, s, c).finished();
    }
};

} // namespace jl
