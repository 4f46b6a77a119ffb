#include "reading/measuring_tables.h"

namespace jl
{

Result<MeasuringTables> MeasuringTables::load(const std::filesystem::path& folder)
{
    auto offsets = LandmarkOffsets::load(folder);
    if (!offsets) return offsets.error();
    auto accuracy = AccuracyTable::load(folder);
    if (!accuracy) return accuracy.error();
    return MeasuringTables{std::move(*offsets), std::move(*accuracy)};
}

} // namespace jl
