#pragma once
#include "body/body_points.h"
#include "measure/measure_id.h"
#include <array>

namespace jl
{

/// What makes the values of one moment less sure than its geometry and the table of accuracy say: a body
/// unlike the model, and the moment itself, which is known to a part of a second only.
class MomentUncertainty
{
public:
    /// As sure as usual.
    MomentUncertainty() = default;
    /// `unlikeness`: how unlike the model the body is there (FoundPhase::cost); `expected`: how it should
    /// stand. A trunk folded far forward hides itself, and what hangs from it is less certain.
    MomentUncertainty(double dissimilarity, const BodyPoints& expected);

    /// By how much wider than usual a value's uncertainty is.
    double factor() const { return m_factor; }
    /// The standard uncertainty that a value has besides, in its unit: what it changes by in the time to
    /// which the moment is known, where it changes fastest.
    double ofTime(Measure m) const { return m_ofTime[static_cast<std::size_t>(m)]; }

    /// At these times before and after the moment, s, tell addChange() how far a value is from its own. The
    /// nearer ones show a movement under way, the farther ones one that has just ended or is about to begin.
    static constexpr std::array<Seconds, 4> kLooks{-0.5, -0.3, 0.3, 0.5};
    /// A value is so far off, s from the moment; what is not finite counts for nothing.
    void addChange(Measure m, double change, double seconds);

private:
    double m_factor = 1;
    std::array<double, kMeasureCount> m_ofTime{};
};

} // namespace jl
