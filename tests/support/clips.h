#pragma once
#include "render/simulated_clip.h"

/// A clip filmed from a direction (deg), a little from above and off the middle.
inline jl::ClipRequest from(double azimuth, double fps = 15, double lens = 1)
{
    jl::ClipRequest clip;
    clip.camera = {azimuth, 5, 4.3, 0.3};
    clip.camera.lens = lens;
    clip.framesPerSecond = fps;
    return clip;
}

/// A whole form, as exact points, filmed from far enough away.
inline jl::Track filmedWhole(const jl::Performance& p, double azimuth)
{
    jl::ClipRequest clip;
    clip.camera = {azimuth, 5, 6.5, 0, 0};
    clip.framesPerSecond = 15;
    return jl::exactTrack(p, clip);
}

/// The exact points of a performance at 15 frames a second, by the usual camera in a direction (deg).
inline jl::Track exactFrom(const jl::Performance& p, double azimuth)
{
    jl::ClipRequest clip;
    clip.camera.azimuth = azimuth;
    clip.framesPerSecond = 15;
    return jl::exactTrack(p, clip);
}
