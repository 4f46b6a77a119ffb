#pragma once
#include "body/track.h"
#include <algorithm>
#include <span>

namespace jl
{

/// The frames of a clip in which the performer stands at the opening of the form, and the size of its picture
/// in pixels. Does not own the frames.
struct StandingPicture {
    std::span<const BodyFrame> frames;
    int width = 0, height = 0;

    int longerSide() const { return std::max(width, height); }
};

} // namespace jl
