#pragma once
#include "support/shipped.h"

/// A faultless performance of any form or single posture.
inline jl::Performance performForm(const std::string& form, jl::Side lead = jl::Side::Right,
                                   std::uint32_t seed = 0, const char* body = "teacher",
                                   const char* school = "upright-broad")
{
    jl::PerformanceRequest request;
    request.form = form;
    request.lead = lead;
    request.seed = seed;
    request.school = school;
    for (const jl::BodyShape& b : shipped().bodies)
        if (b.id == body) request.body = b;
    const auto performance = jl::Performance::create(shipped().standards, request);
    if (!performance) qFatal("%s", performance.error().message().c_str());
    return *performance;
}
