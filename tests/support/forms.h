#pragma once
#include "performer/truth.h"
#include "support/shipped.h"
#include <algorithm>

/// A request for a form or single posture by one of the shipped bodies, exactly as written.
inline jl::PerformanceRequest requestFor(const std::string& form, const std::string& school = "upright-broad",
                                         const std::string& body = "teacher")
{
    jl::PerformanceRequest request;
    request.form = form;
    request.school = school;
    for (const jl::BodyShape& b : shipped().bodies)
        if (b.id == body) request.body = b;
    return request;
}

inline jl::Performance performAs(const jl::PerformanceRequest& request)
{
    const auto performance = jl::Performance::create(shipped().standards, request);
    if (!performance) qFatal("%s", performance.error().message().c_str());
    return *performance;
}

/// A faultless performance of any form or single posture.
inline jl::Performance performForm(const std::string& form, jl::Side lead = jl::Side::Right,
                                   std::uint32_t seed = 0, const char* body = "teacher",
                                   const char* school = "upright-broad")
{
    auto request = requestFor(form, school, body);
    request.lead = lead;
    request.seed = seed;
    return performAs(request);
}

inline const jl::PerformedPhase& phaseOf(const jl::Performance& p, const std::string& posture,
                                         const std::string& phase)
{
    for (const jl::PerformedPhase& each : p.phases())
        if (each.posture == posture && each.phase == phase) return each;
    qFatal("no phase %s of %s", phase.c_str(), posture.c_str());
}

/// The truth of a measure at the phase's key moment.
inline double valueAt(const jl::Performance& p, const jl::PerformedPhase& phase, jl::Measure m)
{
    return jl::trueMeasure(m, p.movingFigureAt(phase.time), phase.lead, phase.heading);
}
