#pragma once
#include "base/image.h"
#include <Eigen/Core>
#include <cstdint>
#include <vector>

namespace jl
{

/// Where a hand-held camera has moved the picture at a time, pixels right and down: a slow drift and a
/// quicker tremble that together stay within about the amplitude.
Eigen::Vector2d shakeAt(double time, double amplitude, std::uint32_t seed);

/// The part of a picture that lies `margin` inside its borders, moved by an offset within that margin
/// (bilinear).
RgbImage croppedAt(const RgbImage& picture, int margin, const Eigen::Vector2d& offset);

/// The mean of pictures of one size: what a shutter gathers while it is open.
RgbImage meanOf(const std::vector<RgbImage>& pictures);

/// Times of the frames of a clip, s, from 0: even at the given rate, or, when uneven is above 0, shifted by
/// up to that share of an interval, with one frame in forty missing, as phones write them.
std::vector<double> frameTimes(double duration, double framesPerSecond, double uneven, std::uint32_t seed);

} // namespace jl
