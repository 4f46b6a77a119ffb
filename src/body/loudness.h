#pragma once
#include "base/units.h"
#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace jl
{

/// How loud a clip is in four octaves over time: enough to tell when two clips of the same room were filmed,
/// too little to understand what was said. Kept with a track.
struct LoudnessCourse {
    static constexpr int kSamplingRate = 8000; ///< samples a second of the sound it is made from
    static constexpr Seconds kStep = 0.01;     ///< s between its moments; the first is that of the clip
    static constexpr std::size_t kOctaves = 4; ///< 250 to 500 Hz and up to 2000 to 4000 Hz
    using Moment = std::array<std::uint8_t, kOctaves>; ///< half decibels above -100 dB of full scale
    std::vector<Moment> moments;

    bool empty() const { return moments.empty(); }
    double duration() const { return static_cast<double>(moments.size()) * kStep; }
};

/// The loudness of one channel of sound, -1 to 1, sampled at kSamplingRate, that begins with the clip: mean
/// power in Hann windows of 16 ms about each moment.
LoudnessCourse loudnessOf(std::span<const float> sound);

/// How two clips lie in time by what was heard.
struct SoundMatch {
    Seconds offset = 0;  ///< s: the second clip lets hear at t + offset what the first does at t
    Ratio clearness = 0; ///< the best agreement of the sounds against the next best elsewhere, above 1
};

/// Finds where the beginnings of sounds agree, over all offsets at which the clips overlap by half of the
/// shorter one: their cross-correlation over the octaves (by Fourier transform), to a fraction of a step
/// (parabola through the best three). None where either clip is shorter than 2 s or nothing is heard, or
/// where no offset stands out, as with silence or an even beat. Where the microphones stand differently far
/// from what is heard the offset is off by 3 ms a metre.
std::optional<SoundMatch> matchSounds(const LoudnessCourse& first, const LoudnessCourse& second);

} // namespace jl
