#pragma once
#include "measure/estimate.h"
#include "measure/measure_id.h"
#include <optional>
#include <span>
#include <string_view>

namespace jl
{

/// Measures of a phase as a whole: of its time, its course and its steps, where Measure is of one moment.
enum class PhaseMeasure {
    Duration,
    PelvisTurn,
    LeftPivot,
    RightPivot,
    LeftPivotOn,
    RightPivotOn,
    PelvisBob,
    KneeLeadDrift,
    WeightEvenness,
    WeightDoubleTime,
    TurnLeads,
    HandFootLag,
    OrderShiftStep,
    OrderTurnStep,
    OrderShiftTurn,
    OrderShiftSink,
    FlowSmoothness,
    FlowPauses,
    BalanceHold,
    BalanceTouches,
    BalanceSway,
    StepHeelToFlat,
    StepWeightAtContact,
    StepWeightAfter,
    StepDrop,
};

inline constexpr std::size_t kPhaseMeasureCount = 25;

struct PhaseMeasureInfo {
    PhaseMeasure measure;
    std::string_view key;        ///< as in files
    std::string_view name;       ///< shown to people
    std::string_view definition; ///< one sentence
    std::string_view unit;       ///< s, m, m2, deg, %, m/s, or empty for counts and indices
    bool isSigned = false;       ///< may be below zero
    bool fromWeight = false;     ///< depends on the weight between the feet
};

const PhaseMeasureInfo& phaseMeasureInfo(PhaseMeasure m);
/// All of them, in the order of PhaseMeasure.
std::span<const PhaseMeasureInfo> allPhaseMeasures();
std::optional<PhaseMeasure> phaseMeasureFromKey(std::string_view key);

/// One of them in one phase, in the unit of phaseMeasureInfo(). Unseen: the clip does not show it, or it did
/// not happen.
struct PhaseValue : Estimate {
    PhaseMeasure measure = PhaseMeasure::Duration;
    std::string_view view;
};

} // namespace jl
