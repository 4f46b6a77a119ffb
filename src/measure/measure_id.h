#pragma once
#include "body/landmark.h"
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace jl
{

/// The measures of this program. Lead and rear are legs, and arms of the same side, by the posture's
/// definition; which is left or right follows from the side the posture is done on. Definitions, units and
/// families: measureInfo().
enum class Measure {
    KneeLeadFlexion,
    KneeRearFlexion,
    HipLeadFlexion,
    HipRearFlexion,
    ElbowLeadFlexion,
    ElbowRearFlexion,
    KneeLeadPastToe,
    KneeLeadTrack,
    StanceLength,
    StanceWidth,
    TrunkLeanForward,
    TrunkLeanSide,
    WeightLead,
    FootLeadAngle,
    FootRearAngle,
    HeelRearLift,
    ToeLeadLift,
    FeetParallelWidth,
    LegLeadSplay,
    LegRearSplay,
    BalanceMargin,
    KneeRearTrack,
    KneesOpen,
    PelvisSquare,
    WaistTwist,
    PelvisLevel,
    PelvisHeight,
    TrunkRearLegLine,
    SpineRound,
    ColumnOffset,
    ShouldersLevel,
    ShoulderLeadRaise,
    ShoulderRearRaise,
    ElbowLeadBelow,
    ElbowRearBelow,
    ElbowLeadFlare,
    ElbowRearFlare,
    ArmLeadReach,
    ArmRearReach,
    HandLeadHeight,
    HandRearHeight,
    HandLeadCentre,
    HandRearCentre,
    HandLeadFront,
    HandRearFront,
    PalmLeadUp,
    PalmRearUp,
    HandsApart,
    ArmsParallel,
    ArmOverLeg,
    HeadForward,
    HeadTilt,
    GazeHeading,
    GazeDrop,
};

inline constexpr std::size_t kMeasureCount = 54;

enum class Unit { Degree, Metre, PerCent };

/// The rungs of the ladder, from the ground up.
enum class Rung { Feet, Weight, Knees, Hips, Trunk, Arms, Head };

inline constexpr std::size_t kRungCount = 7;

/// What part of the body a measure is about, as far as it decides whether the measure can be believed. Arms:
/// both of them together.
enum class Limb { None, Foot, Knee, Leg, Shoulder, Arm, Hand, Palm, Arms };

/// Whose limb it is: of the side that leads the posture, of the other side, or of neither alone.
enum class LimbSide { Neither, Lead, Rear };

struct MeasureInfo {
    Measure measure;
    std::string_view key;        ///< lead/rear form used in data files, e.g. "elbow.lead.flexion"
    std::string_view name;       ///< shown to people
    std::string_view definition; ///< one sentence
    std::string_view frame;      ///< plane and zero
    Unit unit;
    Rung rung;
    Limb limb;
    LimbSide limbSide;
    std::string_view shownFrom; ///< which view would show it
};

const MeasureInfo& measureInfo(Measure m);
/// All measures, in the order of Measure.
std::span<const MeasureInfo> allMeasures();
std::optional<Measure> measureFromKey(std::string_view key);

/// The identifier by body side, as files use it, for a posture led by the given side: those of one arm or leg
/// that are not about the posture's legs are named by L and R there, so "hip.lead.flexion" led by the right
/// is "hip.R.flexion"; all others keep their key.
std::string measureId(Measure m, Side lead);

} // namespace jl
