#pragma once
#include "base/result.h"
#include "body/joint_repair.h"
#include "measure/calibration_hints.h"
#include <filesystem>

namespace jl
{

/// What is known of a clip's room and camera (docs/formats.md, Calibration).
Result<CalibrationHints> readCalibration(const std::filesystem::path& file);

/// Points put in place by hand (docs/formats.md, Repairs), and the same as JSON.
Result<std::vector<JointRepair>> readRepairs(const std::filesystem::path& file);
std::string repairsJson(std::span<const JointRepair> repairs);

/// Both, each only where a file is named.
struct ClipKnowledge {
    CalibrationHints hints;
    std::vector<JointRepair> repairs;
};
Result<ClipKnowledge> clipKnowledge(const std::string& calibrationFile, const std::string& repairsFile);

} // namespace jl
