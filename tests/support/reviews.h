#pragma once
#include "review/review.h"
#include "support/readings.h"

/// The review of a reading against the built-in performer, which must succeed.
inline jl::Review reviewOf(const jl::ClipReading& reading, const std::string& level = "forming",
                           const std::string& school = "upright-broad")
{
    jl::ReviewInput input;
    input.school = school;
    input.level = level;
    input.student = &reading;
    auto review = jl::judgeClip(shipped().standards, shipped().rules, input);
    if (!review) qFatal("%s", review.error().message().c_str());
    return std::move(*review);
}
