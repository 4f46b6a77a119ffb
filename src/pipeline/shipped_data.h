#pragma once
#include "form/clip_reading.h"
#include "form/standards.h"
#include "performer/body_shape.h"
#include "review/fault_rules.h"

namespace jl
{

/// Everything the program reads from its data folder at start.
struct ShippedData {
    Standards standards;
    FaultRules rules;
    MeasuringTables tables;
    std::vector<BodyShape> bodies;

    static Result<ShippedData> load(const std::filesystem::path& folder);

    /// The built-in performances of a form: right and left, or only the side asked for.
    Result<std::vector<ModelPerformance>> models(const std::string& form, const std::string& school,
                                                 std::optional<Side> side = {}) const;
};

} // namespace jl
