#pragma once
#include "body/joint_repair.h"
#include "camera/calibration_hints.h"

namespace jl
{

/// What somebody knows of a clip that its pictures do not show, or show wrongly; kept apart from what was
/// extracted.
struct ClipKnowledge {
    CalibrationHints hints;
    std::vector<JointRepair> repairs;

    bool empty() const { return hints.empty() && repairs.empty(); }
};

} // namespace jl
