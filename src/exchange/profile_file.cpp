#include "exchange/profile_file.h"
#include "base/day.h"
#include "base/json_file.h"
#include <algorithm>
#include <array>
#include <tuple>

namespace jl
{
namespace
{

using Json = nlohmann::json;

struct Switch {
    const char* key;
    bool StudentLimits::*allowed;
};
constexpr std::array kSwitches{
    Switch{"kicks", &StudentLimits::kicks}, Switch{"low_stances", &StudentLimits::lowStances},
    Switch{"jumps", &StudentLimits::jumps}, Switch{"steady", &StudentLimits::steady}};

struct Angle {
    const char* key;
    std::optional<double> StudentLimits::*value;
    double least, most; ///< deg
};
constexpr std::array kAngles{Angle{"knee_flexion", &StudentLimits::kneeFlexion, 20, 150},
                             Angle{"square_within", &StudentLimits::squareWithin, 5, 90}};

Error wrong(const std::string& what, const std::string& where, const std::string& remedy)
{
    return {Error::Kind::BadInput, what, where, remedy};
}

} // namespace

nlohmann::json limitsJson(const StudentLimits& limits)
{
    Json j = Json::object();
    for (const Angle& a : kAngles)
        if (limits.*a.value) j[a.key] = *(limits.*a.value);
    for (const Switch& s : kSwitches)
        if (!(limits.*s.allowed)) j[s.key] = false;
    if (limits.kneeSide) j["knee_side"] = *limits.kneeSide == Side::Left ? "L" : "R";
    if (limits.until) j["until"] = dayText(*limits.until);
    return j;
}

Result<StudentLimits> limitsFromJson(const nlohmann::json& json, const std::string& where)
{
    if (!json.is_object())
        return wrong("limits must be an object", where,
                     "Write for example {\"knee_flexion\": 60, \"kicks\": false}.");
    StudentLimits limits;
    for (const auto& item : json.items()) {
        const std::string& key = item.key();
        const Json& value = item.value();
        const auto angle =
            std::find_if(kAngles.begin(), kAngles.end(), [&](const Angle& a) { return key == a.key; });
        const auto choice =
            std::find_if(kSwitches.begin(), kSwitches.end(), [&](const Switch& s) { return key == s.key; });
        if (angle != kAngles.end()) {
            if (!value.is_number() || value < angle->least || value > angle->most)
                return wrong("limits/" + key + " is no usable angle", where,
                             "Give degrees from " + std::to_string(static_cast<int>(angle->least)) + " to " +
                                 std::to_string(static_cast<int>(angle->most)) + ".");
            limits.*angle->value = value.get<double>();
        } else if (choice != kSwitches.end()) {
            if (!value.is_boolean())
                return wrong("limits/" + key + " must be true or false", where,
                             "Write false for what is left out.");
            limits.*choice->allowed = value.get<bool>();
        } else if (key == "knee_side") {
            if (value != "L" && value != "R")
                return wrong("limits/knee_side is neither L nor R", where, "Name the knee, or leave it out.");
            limits.kneeSide = value == "L" ? Side::Left : Side::Right;
        } else if (key == "until") {
            limits.until = value.is_string() ? dayFrom(value.get<std::string>()) : std::nullopt;
            if (!limits.until)
                return wrong("limits/until is no day", where, "Write the last day as \"2026-03-14\".");
        } else {
            return wrong(
                "there is no limit \"" + key + "\"", where,
                "Known: knee_flexion, knee_side, square_within, kicks, low_stances, jumps, steady, until.");
        }
    }
    return limits;
}

nlohmann::json profileJson(const StudentProfile& profile)
{
    Json j = Json::object();
    if (profile.body.height) j["height"] = *profile.body.height;
    if (profile.body.footLength) j["foot_length"] = *profile.body.footLength;
    if (!profile.limits.none()) j["limits"] = limitsJson(profile.limits);
    return j;
}

Result<StudentProfile> readProfile(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    return profileFromJson(*json, file.string());
}

Result<StudentProfile> profileFromJson(const nlohmann::json& json, const std::string& where)
{
    StudentProfile profile;
    try {
        if (const auto h = json.find("height"); h != json.end()) profile.body.height = h->get<double>();
        if (const auto f = json.find("foot_length"); f != json.end())
            profile.body.footLength = f->get<double>();
    } catch (const Json::exception&) {
        return wrong("height and foot_length must be numbers in metres", where,
                     "Write for example {\"height\": 1.68}.");
    }
    const auto& [height, foot] = std::tie(profile.body.height, profile.body.footLength);
    if (height && (*height < 0.9 || *height > 2.3))
        return wrong("the height is not one of a person", where, "Give it in metres, such as 1.68.");
    if (foot && (*foot < 0.15 || *foot > 0.40))
        return wrong("the foot length is not one of a person", where, "Give it in metres, such as 0.26.");
    if (const auto l = json.find("limits"); l != json.end()) {
        auto limits = limitsFromJson(*l, where);
        if (!limits) return limits.error();
        profile.limits = *limits;
    }
    return profile;
}

} // namespace jl
