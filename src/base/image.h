#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace jl
{

/// A picture, 8 bit RGB, rows from the top, no padding: size is 3 * width * height.
struct RgbImage {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> data;

    RgbImage() = default;
    RgbImage(int w, int h) : width(w), height(h), data(static_cast<std::size_t>(w) * h * 3) {}
    std::uint8_t* row(int y) { return data.data() + static_cast<std::size_t>(y) * width * 3; }
    const std::uint8_t* row(int y) const { return data.data() + static_cast<std::size_t>(y) * width * 3; }
    bool isNull() const { return data.empty(); }
};

} // namespace jl
