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
    /// The library holds another instructor's review: it can be looked at, and nothing in it is decided.
    bool readOnly = false;
};

/// What is said where something would be decided nevertheless.
QString readOnlyWords();

} // namespace jl
