#pragma once
#include "base/units.h"
#include "body/body_motion.h"

namespace jl
{

/// A stretch of a course in which the body rests, from a sample to before another.
struct Rest {
    std::size_t begin = 0, end = 0;
};

/// What counts as a rest.
struct Resting {
    MetresPerSecond speed = 0.02; ///< m/s, below it hands and pelvis rest
    Seconds longer = 0.3;         ///< s, than which it takes

    /// What counts as one in this motion: a little above the speed of its stillest twentieth, which is the
    /// noise of the points, since every posture is held for a moment.
    static Resting in(const BodyMotion& motion);

    /// Where a body that moves this fast (m/s, at even steps of so many s) rests; what only twitches in
    /// between rests on.
    std::vector<Rest> restsOf(const std::vector<double>& speed, double step) const;
};

/// Stops on the way of a body that moves this fast.
struct Pauses {
    double count = 0;
    /// By how much the count hangs on what just passes for a rest or just does not: a standard deviation.
    double spread = 0;
};
Pauses pausesOf(const std::vector<double>& speed, double step, const Resting& resting);

/// A course without its long rests: what is moved, as if there had been none. Short ones stay; a move that is
/// lost again and again is jerky.
std::vector<double> withoutLongRests(const std::vector<double>& course, const std::vector<Rest>& rests,
                                     Seconds step);

/// Smoothness of a movement from its speed at even steps (s): minus the arc length of its normalised
/// amplitude spectrum (SPARC; Balasubramanian, Melendez-Calderon, Burdet 2012, IEEE Trans. Biomed. Eng.
/// 59:2126), up to 3 Hz, since above it the spectrum of slow moves is that of the points' noise. 0 for no
/// movement.
double smoothnessOf(const std::vector<double>& speed, double step);

} // namespace jl
