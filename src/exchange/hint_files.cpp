#include "exchange/hint_files.h"
#include "base/json_file.h"
#include <cmath>

namespace jl
{
namespace
{

using Json = nlohmann::json;

Error wrong(const std::filesystem::path& file, const std::string& what, const std::string& remedy)
{
    return {Error::Kind::BadInput, what, file.string(), remedy};
}

/// Throws what() with the name of what is missing or misshapen.
Eigen::Vector2d pixelOf(const Json& j, const char* name)
{
    const Json& p = j.at(name);
    Eigen::Vector2d pixel(p.at(0).get<double>(), p.at(1).get<double>());
    if (p.size() != 2 || !pixel.allFinite())
        throw std::runtime_error(std::string(name) + " is not a pair of pixels");
    return pixel;
}

double lengthOf(const Json& j, const char* name)
{
    const double length = j.at(name).get<double>();
    if (!(length >= 0.1 && length <= 30))
        throw std::runtime_error(std::string(name) + " is not between 0.1 and 30 metres");
    return length;
}

CalibrationHints hintsFrom(const Json& j)
{
    CalibrationHints hints;
    if (const auto fov = j.find("field_of_view"); fov != j.end()) {
        hints.fieldOfView = fov->get<double>();
        if (!(*hints.fieldOfView >= 15 && *hints.fieldOfView <= 130))
            throw std::runtime_error("field_of_view is not between 15 and 130 degrees");
    }
    if (const auto floor = j.find("floor"); floor != j.end())
        for (const Json& span : *floor)
            hints.spans.push_back({pixelOf(span, "from"), pixelOf(span, "to"), lengthOf(span, "length")});
    if (const auto sheet = j.find("sheet"); sheet != j.end()) {
        std::array<Eigen::Vector2d, 4> corners;
        for (std::size_t i = 0; i < 4; ++i)
            corners[i] = {sheet->at("corners").at(i).at(0).get<double>(),
                          sheet->at("corners").at(i).at(1).get<double>()};
        hints.addSheet(corners, lengthOf(*sheet, "first"), lengthOf(*sheet, "second"));
    }
    if (const auto wall = j.find("wall"); wall != j.end())
        hints.wall = std::array{pixelOf(*wall, "from"), pixelOf(*wall, "to")};
    if (hints.empty()) throw std::runtime_error("it holds neither field_of_view, floor, sheet nor wall");
    return hints;
}

Json jsonOf(const Eigen::Vector2d& pixel)
{
    return {pixel.x(), pixel.y()};
}

/// A sheet is kept as the lengths that were taken from it.
Json jsonOf(const CalibrationHints& hints)
{
    Json j;
    if (hints.fieldOfView) j["field_of_view"] = *hints.fieldOfView;
    for (const FloorSpan& s : hints.spans)
        j["floor"].push_back({{"from", jsonOf(s.from)}, {"to", jsonOf(s.to)}, {"length", s.length}});
    if (hints.wall) j["wall"] = {{"from", jsonOf(hints.wall->at(0))}, {"to", jsonOf(hints.wall->at(1))}};
    return j;
}

/// Adds those up to the first that cannot be used, then throws what is wrong with it.
void addRepairs(std::vector<JointRepair>& repairs, const Json& j)
{
    for (const Json& r : j.at("repairs")) {
        const auto name = r.at("landmark").get<std::string>();
        const auto landmark = landmarkFromName(name);
        if (!landmark) throw std::runtime_error("there is no landmark \"" + name + "\"");
        const double time = r.at("time").get<double>();
        if (!std::isfinite(time)) throw std::runtime_error("a time is not a number");
        repairs.push_back({*landmark, time, pixelOf(r, "point")});
    }
}

nlohmann::ordered_json jsonOf(std::span<const JointRepair> repairs)
{
    auto j = nlohmann::ordered_json::array();
    for (const JointRepair& r : repairs)
        j.push_back({{"landmark", landmarkName(r.landmark)},
                     {"time", r.time},
                     {"point", {r.point.x(), r.point.y()}}});
    return j;
}

} // namespace

Result<CalibrationHints> readCalibration(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    try {
        return hintsFrom(*json);
    } catch (const std::exception& e) {
        return wrong(file, std::string("the calibration cannot be used: ") + e.what(),
                     "Write for example {\"floor\": [{\"from\": [410, 655], \"to\": [870, 660], \"length\": "
                     "1.8}]}.");
    }
}

Result<std::vector<JointRepair>> readRepairs(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    std::vector<JointRepair> repairs;
    try {
        addRepairs(repairs, *json);
    } catch (const std::exception& e) {
        return wrong(
            file, "repair " + std::to_string(repairs.size() + 1) + " cannot be used: " + e.what(),
            "Write for example {\"repairs\": [{\"landmark\": \"left_knee\", \"time\": 4.2, \"point\": "
            "[512, 430]}]}.");
    }
    return repairs;
}

Result<ClipKnowledge> clipKnowledge(const std::string& calibrationFile, const std::string& repairsFile)
{
    ClipKnowledge known;
    if (!calibrationFile.empty()) {
        auto hints = readCalibration(calibrationFile);
        if (!hints) return hints.error();
        known.hints = std::move(*hints);
    }
    if (!repairsFile.empty()) {
        auto repairs = readRepairs(repairsFile);
        if (!repairs) return repairs.error();
        known.repairs = std::move(*repairs);
    }
    return known;
}

std::string repairsJson(std::span<const JointRepair> repairs)
{
    return nlohmann::ordered_json{{"repairs", jsonOf(repairs)}}.dump(1);
}

std::string knowledgeJson(const ClipKnowledge& known)
{
    Json j;
    if (!known.hints.empty()) j["calibration"] = jsonOf(known.hints);
    if (!known.repairs.empty()) j["repairs"] = jsonOf(std::span(known.repairs));
    return j.is_null() ? "{}" : j.dump();
}

Result<ClipKnowledge> knowledgeFrom(const std::string& text, const std::string& where)
{
    ClipKnowledge known;
    try {
        const Json j = Json::parse(text);
        if (j.contains("calibration")) known.hints = hintsFrom(j.at("calibration"));
        if (j.contains("repairs")) addRepairs(known.repairs, j);
    } catch (const std::exception& e) {
        return wrong(where, std::string("what was mended in this clip cannot be read: ") + e.what(),
                     "The clip is measured as it was extracted; mend it again.");
    }
    return known;
}

} // namespace jl
