#pragma once
#include "media/frame.h"
#include <vector>

/// A decoded picture that a test paints in greys: light(x, y) from 0 to 255.
struct GreyPicture {
    std::vector<std::uint8_t> grey, colour;
    jl::Frame frame;

    template <class Light>
    GreyPicture(int width, int height, const Light& light)
        : grey(static_cast<std::size_t>(width * height)),
          colour(static_cast<std::size_t>(width * height / 4), 128)
    {
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x)
                grey[static_cast<std::size_t>(y * width + x)] = static_cast<std::uint8_t>(light(x, y));
        frame.width = width;
        frame.height = height;
        frame.plane[0] = grey.data();
        frame.plane[1] = frame.plane[2] = colour.data();
        frame.stride[0] = width;
        frame.stride[1] = frame.stride[2] = width / 2;
    }
    GreyPicture(const GreyPicture&) = delete; // the frame points into it
};
