#pragma once
#include "measure/floor_contact.h"
#include "measure/phase_measure.h"

namespace jl
{

/// A stretch of a motion in which one phase is done.
struct PhaseSpan {
    double begin = 0; ///< s, when the phase before had arrived
    double time = 0;  ///< s, its own key moment
    Side lead = Side::Right;
    double heading = 0; ///< deg
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
        /// What they owe to where a phase, or a move in it, begins and arrives: standard deviations.
        std::array<double, kPhaseMeasureCount> fromEnds{};

        const std::optional<double>& operator[](std::size_t m) const { return value[m]; }
    };
    /// `hidden`: a horizontal direction along which the points are only guessed (one camera looks along it);
    /// speeds then leave it out, and what needs it has no value.
    Values read(const PhaseSpan& span, const std::optional<Eigen::Vector3d>& hidden) const;

private:
    BodyMotion m_motion;
    BodyLengths m_lengths;
    FloorContact m_contact;
    double m_resting; ///< m/s, a body slower than that stands still
};

/// Smoothness of a movement from its speed at even steps (s): minus the arc length of its normalised
/// amplitude spectrum (SPARC; Balasubramanian, Melendez-Calderon, Burdet 2012, IEEE Trans. Biomed. Eng.
/// 59:2126), up to 3 Hz, since above it the spectrum of slow moves is that of the points' noise. 0 for no
/// movement.
double smoothnessOf(const std::vector<double>& speed, double step);

} // namespace jl
