#pragma once
#include "render/simulated_clip.h"

namespace jl
{

/// The truth of a simulated clip as JSON (docs/formats.md): every measure at each frame and key moment, what
/// is true of phases and postures as a whole, meetings with the floor, faults, camera and body.
std::string truthJson(const Performance& performance, const ClipRequest& request);

} // namespace jl
