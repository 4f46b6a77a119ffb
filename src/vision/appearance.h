#pragma once
#include "body/track.h"
#include "media/frame.h"
#include <Eigen/Core>

namespace jl
{

/// What a body's clothes look like: the mean colours of the trunk and of the thighs, so that two people are
/// distinguished when one walks past the other. Luma and two colour differences, 0 to 255.
struct Appearance {
    Eigen::Vector3f trunk{0, 0, 0}, thighs{0, 0, 0};

    static Appearance of(const Frame& frame, const BodyFrame& body);

    /// How unlike another is: 0 the same, below 1 the same clothes from another side or in other light,
    /// above 1.6 most likely somebody else. A step of 40 in luma or of 10 in colour counts 1.
    double unlike(const Appearance& another) const;

    /// Moves a share of the way to another.
    void adapt(const Appearance& to, float share);
};

} // namespace jl
