#pragma once
#include "performer/body_shape.h"
#include "pipeline/model_memory.h"
#include "reading/clip_reading.h"
#include "review/fault_rules.h"
#include "standards/standards.h"
#include "standards/student_limits.h"
#include <memory>

namespace jl
{

/// Everything the program reads from its data folder at start.
struct ShippedData {
    Standards standards;
    FaultRules rules;
    MeasuringTables tables;
    std::vector<BodyShape> bodies;
    std::shared_ptr<ModelMemory> memory; ///< of models(); belongs to these standards

    /// With the instructor's own standards from `own` over the shipped ones.
    static Result<ShippedData> load(const std::filesystem::path& folder,
                                    const std::filesystem::path& own = {});

    /// The built-in performances of a form: right and left, or only the side asked for; within a student's
    /// limits.
    Result<std::vector<ModelPerformance>> models(const std::string& form, const std::string& school,
                                                 std::optional<Side> side = {},
                                                 const StudentLimits& limits = {}) const;
};

} // namespace jl
