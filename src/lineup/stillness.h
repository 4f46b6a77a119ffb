#pragma once
#include "base/units.h"
#include "body/track.h"
#include <optional>
#include <vector>

namespace jl
{

/// A stretch of a clip in which the body is as still as where it holds, s.
struct Stillness {
    Seconds begin = 0, end = 0;
    double slack = 0; ///< by how much more than where it is stillest it may move there (motionAt())
    double middle() const { return 0.5 * (begin + end); }
};

/// Finds where the body of a smoothed track holds still: what moves little more than the noise does.
class StillnessFinder
{
public:
    /// The track must outlive the finder. standingSize: see motion.h; noise: apparent motion of a body at
    /// rest (motionAt()).
    StillnessFinder(const Track& track, double standingSize, double noise);

    /// The stillness nearest to where a key moment is expected. Up to two seconds either way belong to it: a
    /// long hold is one. With a slack of its own where that of another clip is to be used.
    Stillness near(double guess, std::optional<double> slack = {}) const;

    /// That one and all others within reach of the guess, in order: a performer who hesitates is still more
    /// than once.
    std::vector<Stillness> around(double guess) const;

    /// When it really ends, however long it is.
    double endOf(const Stillness& s) const;

private:
    double motion(double time) const;
    double stillestNear(double guess) const;
    Stillness spreadFrom(double still, double least, double slack) const;

    const Track* m_track;
    double m_size;
    double m_slack;
};

} // namespace jl
