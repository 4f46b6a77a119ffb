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
};

inline constexpr std::size_t kMeasureCount = 13;

enum class Unit { Degrees, Metres, Percent };

/// The rungs of the ladder, from the ground up.
enum class Rung { Feet, Weight, Knees, Hips, Trunk, Arms };

inline constexpr std::size_t kRungCount = 6;

struct MeasureInfo {
    Measure measure;
    std::string_view key;        ///< lead/rear form used in data files, e.g. "elbow.lead.flexion"
    std::string_view name;       ///< shown to people
    std::string_view definition; ///< one sentence
    std::string_view frame;      ///< plane and zero
    Unit unit;
    Rung rung;
    std::string_view shownFrom; ///< which view would show it
};

const MeasureInfo& measureInfo(Measure m);
std::span<const MeasureInfo> allMeasures();
std::optional<Measure> measureFromKey(std::string_view key);

/// The identifier of measures.md for a posture led by the given side: hips and elbows are named by L and R
/// there, so "hip.lead.flexion" led by the right is "hip.R.flexion"; all others keep their key.
std::string measureId(Measure m, Side lead);

} // namespace jl
