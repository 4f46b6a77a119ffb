#pragma once

namespace jl
{

/// Of a measure's row in the ladder, pixels: with its bar, and where nothing was seen.
inline constexpr int kSeenHeight = 50, kUnseenHeight = 36;

} // namespace jl
