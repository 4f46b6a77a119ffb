#pragma once
#include "base/paths.h"
#include "pipeline/shipped_data.h"
#include "render/simulated_clip.h"
#include <QtGlobal>

/// The shipped data, which must load.
inline const jl::ShippedData& shipped()
{
    static const auto data = jl::ShippedData::load(jl::dataFolder());
    if (!data) qFatal("%s", data.error().message().c_str());
    return *data;
}

/// A performance of the section with the given body, seed and faults.
inline jl::Performance perform(const char* body = "teacher", std::uint32_t seed = 0,
                               jl::Side lead = jl::Side::Right,
                               const std::vector<jl::FaultRequest>& faults = {}, double tempo = 1)
{
    jl::PerformanceRequest request;
    for (const jl::BodyShape& b : shipped().bodies)
        if (b.id == body) request.body = b;
    request.seed = seed;
    request.lead = lead;
    request.faults = faults;
    request.tempo = tempo;
    auto performance = jl::Performance::create(shipped().standards, request);
    if (!performance) qFatal("%s", performance.error().message().c_str());
    return *performance;
}
