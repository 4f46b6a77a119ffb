#pragma once
#include "vision/network.h"
#include "vision/sampler.h"
#include <optional>

namespace jl
{

/// Finds the person in a whole picture: used to begin following, and again when the body was lost.
class PersonDetector
{
public:
    static Result<PersonDetector> load();

    /// The region of the most prominent person (score times height in the picture), or nothing.
    std::optional<Region> find(const Frame& frame);

    /// The decoding of one anchor for tests: box centre, size and the two key points that place the region.
    static constexpr int kInputSize = 224;

private:
    explicit PersonDetector(Network network);
    Network m_network;
    std::vector<Eigen::Vector2d> m_anchors; ///< centres, 0 to 1
};

} // namespace jl
