#include "standards/schema_check.h"
#include <algorithm>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

namespace jl
{
namespace
{

/// "stances/bow/weight.lead" from the parts a validator gives, such as ["stances"].
std::string placeOf(const std::vector<std::string>& context)
{
    std::string place;
    for (std::string part : context) {
        if (part == "<root>") continue;
        for (char c : {'[', ']', '"'})
            part.erase(std::remove(part.begin(), part.end(), c), part.end());
        place += (place.empty() ? "" : "/") + part;
    }
    return place.empty() ? "the file" : place;
}

} // namespace

Result<Done> followsSchema(const nlohmann::json& document, const std::filesystem::path& schemaFile,
                           const std::string& where)
{
    const auto text = readJson(schemaFile);
    if (!text) return text.error();
    valijson::Schema schema;
    valijson::SchemaParser().populateSchema(valijson::adapters::NlohmannJsonAdapter(*text), schema);
    valijson::ValidationResults results;
    if (valijson::Validator().validate(schema, valijson::adapters::NlohmannJsonAdapter(document), &results))
        return Done{};
    // The first error speaks of the whole file, the last ones of the innermost place.
    valijson::ValidationResults::Error error, deepest;
    while (results.popError(error))
        if (error.context.size() >= deepest.context.size()) deepest = error;
    const bool choice = deepest.description.find("oneOf") != std::string::npos;
    const std::string why = choice ? "it has none of the shapes that are allowed there" : deepest.description;
    return Error{Error::Kind::BadInput, placeOf(deepest.context) + ": " + why, where,
                 "Mend that place; \"jolly-lantern-cli check\" looks at it again."};
}

Result<nlohmann::json> readOwn(const std::filesystem::path& file, const std::filesystem::path& shipped,
                               const std::string& kind)
{
    auto json = readJson(file);
    if (!json) return json.error();
    const auto follows = followsSchema(*json, shipped / "schema" / (kind + ".schema.json"), file.string());
    if (!follows) return follows.error();
    return json;
}

std::string kindOfStandard(const nlohmann::json& j)
{
    if (j.is_array()) return !j.empty() && j.front().is_object() && j.front().contains("cue") ? "faults" : "";
    if (!j.is_object()) return "";
    if (j.contains("stances")) return "school";
    if (j.contains("phases") && j.contains("id")) return "posture";
    if (j.contains("forms") || j.contains("levels")) return "forms";
    return "";
}

} // namespace jl
