#include "pipeline/shipped_data.h"
#include "performer/model_of.h"

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
    return ShippedData{std::move(*standards), std::move(*rules), std::move(*tables), std::move(*bodies)};
}

Result<std::vector<ModelPerformance>> ShippedData::models(const std::string& form, const std::string& school,
                                                          std::optional<Side> side,
                                                          const Limits& limits) const
{
    BodyShape body;
    body.kicks = limits.kicks;
    if (limits.kneeFlexion) body.kneeLimit = *limits.kneeFlexion;
    std::vector<ModelPerformance> all;
    for (Side s : {Side::Right, Side::Left}) {
        if (side && *side != s) continue;
        auto model = modelPerformance(standards, form, school, s, body);
        if (!model) return model.error();
        all.push_back(std::move(*model));
    }
    return all;
}

} // namespace jl
