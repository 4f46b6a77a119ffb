#pragma once
#include "base/units.h"
#include "measure/floor_contact.h"
#include "measure/flow.h"
#include "measure/phase_measure.h"

namespace jl
{

/// A stretch of a motion in which one phase is done.
struct PhaseSpan {
    Seconds begin = 0; ///< s, when the phase before had arrived
    Seconds time = 0;  ///< s, its own key moment
    Side lead = Side::Right;
    Degrees heading = 0; ///< deg
    /// S, when the phase before began, in which a shift or turn may have begun too; otherwise begin.
    std::optional<Seconds> since = {};
    bool onOneLeg = false; ///< ends in a pose on one leg
    /// Its hands arrive with the last touch of the leading foot, otherwise with the weight.
    bool meetsFoot = false;
};

/// Values of PhaseMeasure from a body that moves in space: each phase's courses of weight, pelvis, hands and
/// feet, with starts and arrivals where a speed passes a tenth of its peak.
class PhaseCourses
{
public:
    /// Copies what it needs; the motion should be smooth (noise of a few mm).
    PhaseCourses(BodyMotion motion, const BodyLengths& lengths, const ExpectedSteps& expected = {});

    const FloorContact& contact() const { return m_contact; }

    struct Values {
        std::array<std::optional<double>, kPhaseMeasureCount> value; ///< by PhaseMeasure
        /// By how much each hangs on what is known of the clip itself, such as where a move begins and
        /// arrives, how far the weight is over, or what just passes for a rest: standard deviations.
        std::array<double, kPhaseMeasureCount> spread{};

        const std::optional<double>& operator[](std::size_t m) const { return value[m]; }
    };
    /// `hidden`: a horizontal direction along which the points are only guessed (one camera looks along it);
    /// speeds then leave it out, and what needs it has no value.
    Values measure(const PhaseSpan& span, const std::optional<Eigen::Vector3d>& hidden) const;

private:
    BodyMotion m_motion;
    BodyLengths m_lengths;
    FloorContact m_contact;
    Resting m_resting;
};

} // namespace jl
