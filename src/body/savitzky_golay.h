#pragma once
#include <vector>

namespace jl
{

/// Smooths an evenly sampled series in place with a zero-phase Savitzky-Golay filter of order 2 over
/// 2 * half + 1 samples (Savitzky and Golay 1964). The ends are continued by point reflection, so that a
/// steady speed at the border is kept. A series shorter than the window is filtered with the largest window
/// that fits.
void savitzkyGolay(std::vector<double>& series, int half);

} // namespace jl
