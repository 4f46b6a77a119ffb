#include "performer/body_shape.h"
#include "base/json_file.h"

namespace jl
{
namespace
{

Eigen::Vector3f colour(const nlohmann::json& j)
{
    return {j.at(0).get<float>(), j.at(1).get<float>(), j.at(2).get<float>()};
}

} // namespace

double BodyShape::trunkLength() const
{
    // What longer or shorter legs take from or give to the trunk keeps the whole height.
    return 0.475 * scale() - 0.82 * (legShare - 1) * scale();
}

Result<std::vector<BodyShape>> loadBodies(const std::filesystem::path& folder)
{
    const auto file = folder / "bodies.json";
    const auto json = readJson(file);
    if (!json) return json.error();
    std::vector<BodyShape> bodies;
    try {
        for (const auto& j : *json) {
            BodyShape b;
            b.id = j.at("id");
            b.name = j.at("name");
            const std::string sex = j.value("sex", "");
            b.mass = sex == "female" ? MassTable::Female : sex == "male" ? MassTable::Male : MassTable::Mean;
            b.height = j.at("height");
            b.legShare = j.value("legs", 1.0);
            b.armShare = j.value("arms", 1.0);
            b.hipShare = j.value("hips", 1.0);
            b.shoulderShare = j.value("shoulders", 1.0);
            b.build = j.value("build", 1.0);
            b.stoop = j.value("stoop", 0.0);
            b.kneeLimit = j.value("kneeLimit", b.kneeLimit);
            b.hipTurnLimit = j.value("hipTurnLimit", b.hipTurnLimit);
            b.kicks = j.value("kicks", true);
            b.dress = {colour(j.at("skin")),      colour(j.at("hair")),  colour(j.at("jacket")),
                       colour(j.at("trousers")),  colour(j.at("shoes")), j.value("loose", 1.0),
                       j.value("longHair", false)};
            bodies.push_back(std::move(b));
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput,
                     std::string("a value is missing or of the wrong sort: ") + e.what(), file.string(),
                     "Take the shipped file again."};
    }
    return bodies;
}

} // namespace jl
