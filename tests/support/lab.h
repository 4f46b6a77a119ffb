#pragma once
#include "lab/lab_data.h"
#include "support/shipped.h"

/// The laboratory's data, which must load.
inline const jl::LabData& lab()
{
    static const auto data = jl::LabData::load(jl::dataFolder());
    if (!data) qFatal("%s", data.error().message().c_str());
    return *data;
}
