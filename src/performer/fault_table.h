#pragma once
#include "performer/faults.h"
#include <span>

namespace jl
{

/// What is turned in a pose to bring a fault about; a negative range turns it the other way. Angles in deg,
/// lengths in m, shares as fractions.
enum class Knob {
    LeadKnee,    ///< front knee inward
    RearKnee,    ///< rear knee inward
    Rise,        ///< pelvis higher, legs straighter
    LeadFootOut, ///< front foot turned out on its heel
    RearFootOut,
    LeadToesUp, ///< pitch
    RearHeelUp,
    LeadWeight, ///< more weight on the front leg
    RearWeight, ///< less
    LeanForward,
    LeanBack,
    LeanSide,
    PelvisToRear, ///< pelvis turned to the rear side
    PelvisAhead,  ///< pelvis turned towards the posture's direction, the shoulders as they are
    PelvisTilt,
    ShoulderTilt,
    Shrug,
    Round,
    LookDown,
    HeadTilt,
    LeadElbowUp,
    LeadHandFront,
    LeadHandBack,
    LeadHandOut,
    LeadHandUp,
    HandsOut,
    RearElbowUp,
    RearHandFront,
    RearHandBack,
    RearHandOut,
    RearHandUp,
    LeadFootUp, ///< the kicking foot higher
    Sway,       ///< centre of mass to the outside of the standing leg
};

/// A fault that one knob brings about at the key moments of some stances.
struct PoseFault {
    FaultKind kind;
    StanceSet stances;
    Knob knob;
    double range;                ///< as far as the knob goes
    bool above;                  ///< the measure goes above its limit, otherwise below
    std::optional<double> limit; ///< without it the size counts from the faultless value
    bool bySchool = false;       ///< the school's band, where it has one, comes before the limit
};

std::span<const PoseFault> poseFaults();

/// Faults of steps, timing and order, which have a way of their own.
std::span<const FaultKind> otherFaults();

} // namespace jl
