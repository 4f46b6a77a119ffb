#pragma once
#include "reading/clip_reading.h"
#include "support/shipped.h"

/// What is read of a perfect track: it has no network's offsets, so that the table of them is empty.
inline jl::ClipReading readExact(const jl::Track& track, const jl::Performance& p,
                                 std::optional<double> height, const char* form = "sparrow-tail")
{
    const auto models = shipped().models(form, "upright-broad", p.lead());
    jl::PersonProfile profile;
    profile.height = height;
    auto clip = jl::readClip(track, *models, profile, jl::MeasuringTables{});
    if (!clip) qFatal("%s", clip.error().message().c_str());
    return *clip;
}

/// By somebody whose height is known.
inline jl::ClipReading readExact(const jl::Track& track, const jl::Performance& p,
                                 const char* form = "sparrow-tail")
{
    return readExact(track, p, p.body().height, form);
}
