#include "app/jobs/demo_library.h"
#include "base/json_file.h"
#include "base/paths.h"
#include "exchange/profile_file.h"
#include <map>

namespace jl
{

Result<Done> fillDemo(Library& library)
{
    if (!library.clips().empty()) return Done{};
    const auto folder = dataFolder() / "demo";
    const auto json = readJson(folder / "demo.json");
    if (!json) return json.error();
    const auto text = [](const nlohmann::json& j, const char* key) {
        return QString::fromStdString(j.value(key, std::string()));
    };
    std::map<std::string, qint64> students, clips;
    for (const auto& j : json->at("students")) {
        StudentRow row{0,  text(j, "name"),  j.at("height").get<double>(),
                       {}, text(j, "level"), text(j, "limits")};
        const auto limits = limitsFromJson(j.value("body_limits", nlohmann::json::object()), "demo.json");
        if (!limits) return limits.error();
        row.bodyLimits = *limits;
        const auto id = library.addStudent(row);
        if (!id) return id.error();
        students[j.at("id")] = *id;
    }
    for (const auto& j : json->at("clips")) {
        ClipRow row;
        row.title = text(j, "title");
        row.reference = j.value("reference", false);
        if (j.contains("student")) row.studentId = students.at(j.at("student"));
        if (j.contains("height")) row.performerHeight = j.at("height").get<double>();
        const auto file = QString::fromStdString((folder / j.at("file").get<std::string>()).string());
        const auto id = library.addClip(file, row);
        if (!id) return id.error();
        clips[j.at("file")] = *id;
        if (row.reference) continue;
        ReviewRow review{0, *id, {}, text(j, "form"), text(j, "school")};
        if (j.contains("against")) review.referenceId = clips.at(j.at("against"));
        const auto made = library.reviewOf(review);
        if (!made) return made.error();
    }
    for (const auto& j : json->at("clips")) { // second views, now that every clip is there
        if (!j.contains("with")) continue;
        auto review = library.reviewOf({0, clips.at(j.at("file")), {}, {}, {}});
        if (!review) return review.error();
        review->secondId = clips.at(j.at("with"));
        const auto set = library.updateReview(*review);
        if (!set) return set.error();
    }
    return Done{};
}

} // namespace jl
