#include "pipeline/shipped_data.h"
#include "performer/model_of.h"
#include <future>

namespace jl
{

Result<ShippedData> ShippedData::load(const std::filesystem::path& folder, const std::filesystem::path& own)
{
    auto standards = Standards::load(folder, own);
    if (!standards) return standards.error();
    auto rules = FaultRules::load(folder, own);
    if (!rules) return rules.error();
    auto tables = MeasuringTables::load(folder);
    if (!tables) return tables.error();
    auto bodies = loadBodies(folder);
    if (!bodies) return bodies.error();
    return ShippedData{std::move(*standards), std::move(*rules), std::move(*tables), std::move(*bodies),
                       std::make_shared<ModelMemory>()};
}

Result<std::vector<ModelPerformance>> ShippedData::models(const std::string& form, const std::string& school,
                                                          std::optional<Side> side,
                                                          const StudentLimits& limits) const
{
    BodyShape body;
    body.kicks = limits.kicks;
    if (limits.kneeFlexion) body.kneeLimit = *limits.kneeFlexion;
    const auto made = [&](Side s) -> Result<ModelPerformance> {
        const ModelMemory::Key key{form, school, s, body.kicks, body.kneeLimit};
        if (auto known = memory->find(key)) return std::move(*known);
        auto model = modelPerformance(standards, form, school, s, body);
        if (model) memory->keep(key, *model);
        return model;
    };
    std::vector<std::future<Result<ModelPerformance>>> sides;
    for (Side s : {Side::Right, Side::Left})
        if (!side || *side == s) sides.push_back(std::async(std::launch::async, made, s));
    std::vector<ModelPerformance> all;
    std::optional<Error> error;
    for (auto& each : sides) {
        auto model = each.get();
        if (model)
            all.push_back(std::move(*model));
        else
            error = model.error();
    }
    if (error) return *error;
    return all;
}

} // namespace jl
