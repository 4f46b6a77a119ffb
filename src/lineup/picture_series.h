#pragma once
#include "base/units.h"
#include "lineup/body_lines.h"
#include <vector>

namespace jl
{

/// The pictures of a clip or of a model at an even rate.
struct PictureSeries {
    std::vector<Seconds> time; ///< s
    std::vector<BodyLines> lines;

    std::size_t size() const { return time.size(); }
};

/// The frames in which the body is seen, from begin to end, s.
PictureSeries picturesOf(const Track& track, double standingSize, double rate, double begin, double end);

/// As a camera sees the model from begin to end, s.
PictureSeries picturesOf(const ModelPictures& model, double rate, double begin, double end);

} // namespace jl
