#pragma once
#include "base/json_file.h"

namespace jl
{

/// Whether a document follows one of the JSON Schemas in data/schema (draft 7). The error names the file, the
/// path inside it, and the reason.
Result<Done> followsSchema(const nlohmann::json& document, const std::filesystem::path& schemaFile,
                           const std::string& where);

/// Reads an instructor's own file and checks it so; `kind` names the schema in the shipped data folder:
/// posture, school, forms or faults.
Result<nlohmann::json> readOwn(const std::filesystem::path& file, const std::filesystem::path& shipped,
                               const std::string& kind);

/// The kind of standard that a JSON document seems to be; empty for anything else.
std::string kindOfStandard(const nlohmann::json& document);

} // namespace jl
