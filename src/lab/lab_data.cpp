#include "lab/lab_data.h"

namespace jl
{

Result<LabData> LabData::load(const std::filesystem::path& folder)
{
    auto shipped = ShippedData::load(folder);
    if (!shipped) return shipped.error();
    auto errors = NetworkErrors::load(folder);
    if (!errors) return errors.error();
    return LabData{std::move(*shipped), std::make_shared<const NetworkErrors>(std::move(*errors))};
}

LabData LabData::withoutBias() const
{
    LabData data = *this;
    data.tables.accuracy = tables.accuracy.withoutBias();
    data.tables.offsets = tables.offsets.withoutHipLine();
    return data;
}

} // namespace jl
