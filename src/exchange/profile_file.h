#pragma once
#include "camera/calibration.h"
#include "standards/student_limits.h"
#include <filesystem>
#include <nlohmann/json_fwd.hpp>

namespace jl
{

/// What is known of a student: the body, and what may be asked of it.
struct StudentProfile {
    PersonProfile body;
    StudentLimits limits;
};

/// A profile file, everything in it optional: {"height": m, "foot_length": m, "limits": {"knee_flexion": deg,
/// "square_within": deg, "kicks": false, "low_stances": false, "jumps": false, "steady": false}}. Values that
/// no person has, and limits that are not known, are refused.
Result<StudentProfile> readProfile(const std::filesystem::path& file);
Result<StudentProfile> profileFromJson(const nlohmann::json& json, const std::string& where);
nlohmann::json profileJson(const StudentProfile& profile);

nlohmann::json limitsJson(const StudentLimits& limits);

/// The error says what of the limits is wrong; `where` names the file.
Result<StudentLimits> limitsFromJson(const nlohmann::json& json, const std::string& where);

} // namespace jl
