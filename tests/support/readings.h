#pragma once
#include "reading/clip_reading.h"
#include "support/clips.h"
#include "support/shipped.h"

/// As what a track is read, and whose it is. Exact points have no network's offsets: the tables are empty.
struct ReadAs {
    std::string form = "sparrow-tail", school = "upright-broad";
    std::optional<double> height = {}; ///< m; none: unknown
    std::optional<jl::Side> lead = {}; ///< none: both sides are tried
    jl::StudentLimits limits = {};
    jl::MeasuringTables tables = {};
};

/// The reading of a track, which must succeed.
inline jl::ClipReading readTrack(const jl::Track& track, const ReadAs& as = {})
{
    const auto models = shipped().models(as.form, as.school, as.lead, as.limits);
    if (!models) qFatal("%s", models.error().message().c_str());
    jl::PersonProfile profile;
    profile.height = as.height;
    auto clip = jl::readClip(track, *models, profile, as.tables);
    if (!clip) qFatal("%s", clip.error().message().c_str());
    return std::move(*clip);
}

/// The reading of a perfect track of a performance, by somebody whose height is known.
inline jl::ClipReading readExact(const jl::Track& track, const jl::Performance& p,
                                 const std::string& form = "sparrow-tail")
{
    return readTrack(track, {.form = form, .height = p.body().height, .lead = p.lead()});
}

/// The same, filmed from a direction (deg) by the usual camera.
inline jl::ClipReading readFilmed(const jl::Performance& p, double azimuth, ReadAs as = {})
{
    if (!as.height) as.height = p.body().height;
    return readTrack(exactFrom(p, azimuth), as);
}
