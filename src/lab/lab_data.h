#pragma once
#include "lab/network_errors.h"
#include "pipeline/shipped_data.h"

namespace jl
{

/// The shipped data with what only the laboratory needs: the networks' errors, for simulated points.
struct LabData : ShippedData {
    std::shared_ptr<const NetworkErrors> errors;

    static Result<LabData> load(const std::filesystem::path& folder);

    /// For points with errors drawn from NetworkErrors: the networks' mean errors are not in them, so the
    /// tables subtract none.
    LabData withoutBias() const;
};

} // namespace jl
