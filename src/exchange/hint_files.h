#pragma once
#include "base/result.h"
#include "camera/clip_knowledge.h"
#include <filesystem>

namespace jl
{

/// What is known of a clip's room and camera (docs/formats.md, Calibration).
Result<CalibrationHints> readCalibration(const std::filesystem::path& file);

/// Points put in place by hand (docs/formats.md, Repairs), and the same as JSON.
Result<std::vector<JointRepair>> readRepairs(const std::filesystem::path& file);
std::string repairsJson(std::span<const JointRepair> repairs);

/// Both in one text, as the library keeps them: {"calibration": ..., "repairs": [...]}. `where` names the
/// text in an error.
std::string knowledgeJson(const ClipKnowledge& known);
Result<ClipKnowledge> knowledgeFrom(const std::string& text, const std::string& where);

/// Both, each only where a file is named.
Result<ClipKnowledge> clipKnowledge(const std::string& calibrationFile, const std::string& repairsFile);

} // namespace jl
