#pragma once
#include "base/units.h"
#include "body/body_motion.h"
#include <optional>

namespace jl
{

inline constexpr Seconds kCourseWindow = 0.35; ///< s over which courses of the body are smoothed

/// The frames of a span of a motion, after `begin` and up to `end` (s), in which the body is seen.
struct Stretch {
    std::vector<std::size_t> frame;
    std::vector<Seconds> time;
    Seconds step = 0;      ///< s between frames
    std::size_t asked = 0; ///< how many frames the span has with those where the body is not seen

    Stretch(const BodyMotion& motion, double begin, double end);
    std::size_t size() const { return frame.size(); }
};

/// Of the middle of the hips, m.
double hipHeight(const BodyPoints& points);

/// Without lag, at even steps of so many s.
std::vector<double> smoothed(std::vector<double> course, double step);
/// Its highest less its lowest value.
double rangeOf(const std::vector<double>& course);

/// Heading of the pelvis, deg, smoothed and without jumps at half turns.
std::vector<double> pelvisHeading(const BodyMotion& motion, const Stretch& s);
/// How fast the centre of mass goes over the floor, m/s, but for what is hidden along a horizontal direction.
/// Empty where it goes less than 8 cm on the whole: there is no shift.
std::vector<double> massSpeed(const BodyMotion& motion, const Stretch& s,
                              const std::optional<Eigen::Vector3d>& hidden);
/// How fast the shoulders sink, m/s; 0 while they rise. Empty where they never sink by 2.5 cm.
std::vector<double> sinkSpeed(const BodyMotion& motion, const Stretch& s);

} // namespace jl
