#pragma once
#include "base/units.h"
#include <optional>
#include <vector>

namespace jl
{

inline constexpr Share kTenth = 0.1;      ///< of its peak, where a speed counts as started or arrived
inline constexpr Seconds kTogether = 0.3; ///< s; what begins so soon after another move begins with it
inline constexpr Seconds kTwitch = 0.15;  ///< s: what moves for no longer is no move

/// Onset and arrival of a movement, from its speed.
struct Travel {
    Seconds start = 0, arrival = 0; ///< s, where the speed passes a share of its peak
    double peak = 0;                ///< of the speed
};

/// What is no faster than `resting` is the noise of a rest, and what moves for no longer than a twitch too:
/// after hands that have stopped before a pause nothing else may count as their arrival.
Travel travelOf(const std::vector<double>& speed, const std::vector<double>& time, double resting = 0,
                Share share = kTenth);

/// How fast a course at even steps changes, per s; never negative.
std::vector<double> changeOf(const std::vector<double>& course, double step);

/// How long a movement still goes on after a moment, s; negative: how long it had come to rest before. It
/// goes on while its speed is above a share of its peak. What begins up to kTogether after the moment begins
/// with it and goes on: two moves that begin at once are not one after the other. None where it had not
/// begun.
std::optional<double> overlapOf(const std::vector<double>& speed, const std::vector<double>& time,
                                double moment, double share = kTenth);

} // namespace jl
