#pragma once
#include "body/landmark_offsets.h"
#include "measure/accuracy_table.h"

namespace jl
{

/// The tables of data/measure, read once.
struct MeasuringTables {
    LandmarkOffsets offsets;
    AccuracyTable accuracy;
    static Result<MeasuringTables> load(const std::filesystem::path& folder);
};

} // namespace jl
