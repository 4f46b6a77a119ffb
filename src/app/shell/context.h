#pragma once
#include "app/jobs/extraction_queue.h"
#include "app/theme/theme.h"
#include "library/library.h"
#include "pipeline/shipped_data.h"

namespace jl
{

/// What every place of the window works with.
struct Context {
    Library& library;
    const ShippedData& data;
    const Theme& theme;
    ExtractionQueue& queue;
};

} // namespace jl
