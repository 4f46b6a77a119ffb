#pragma once
#include "performer/choreography.h"
#include "performer/faults.h"
#include "performer/figure.h"
#include <cstdint>

namespace jl
{

/// The end of one phase in a performance.
struct PerformedPhase {
    std::string posture, phase;
    StanceKind stance = StanceKind::Parallel;
    double begin = 0; ///< s, when the move into the phase starts
    double time = 0;  ///< s, key moment: the middle of the stillness after the move
    double heading = 0;
    Side lead = Side::Right; ///< of this posture
};

struct PerformanceRequest {
    std::string form = "sparrow-tail";
    std::string school = "upright-broad";
    Side lead = Side::Right;
    BodyShape body;
    std::vector<FaultRequest> faults;
    std::uint32_t seed = 0; ///< 0: exactly as written; otherwise small natural variations
    double tempo = 1;       ///< durations are divided by it
    Manner manner;
};

/// A form performed by one body: any moment of it can be asked for.
class Performance
{
public:
    static Result<Performance> create(const Standards& standards, const PerformanceRequest& request);
    /// The same for a form whose steps were changed; the request's own form is not looked at.
    static Result<Performance> create(const Standards& standards, const FormStandard& form,
                                      const PerformanceRequest& request);

    const BodyShape& body() const { return m_body; }
    Side lead() const { return m_lead; }
    double duration() const { return m_duration; }
    const std::vector<PerformedPhase>& phases() const { return m_phases; }
    const std::vector<PerformedFault>& faults() const { return m_faults; }
    Pose poseAt(double time) const;
    Figure figureAt(double time) const { return poseFigure(m_body, poseAt(time)); }
    /// The same with the velocity of the centre of mass.
    Figure movingFigureAt(double time) const;
    /// The phase under way: the one whose key moment comes next.
    const PerformedPhase& phaseAt(double time) const;

private:
    BodyShape m_body;
    Side m_lead = Side::Right;
    std::vector<Moment> m_moments;
    std::vector<double> m_begin; ///< start of the move to each moment
    double m_duration = 0;
    std::vector<PerformedPhase> m_phases;
    std::vector<PerformedFault> m_faults;
};

/// The pose at a share of the move from one pose to a moment.
Pose poseBetween(const Pose& from, const Moment& to, double share, const BodyShape& body);

/// Minimum-jerk course from 0 to 1 (Flash and Hogan 1985); clamped outside.
double minimumJerk(double share);

} // namespace jl
