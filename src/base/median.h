#pragma once
#include <algorithm>
#include <vector>

namespace jl
{

/// The middle value, of an even number the upper one of the two. There must be one.
inline double median(std::vector<double> values)
{
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

} // namespace jl
