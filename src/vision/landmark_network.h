#pragma once
#include "body/track.h"
#include "vision/network.h"
#include "vision/network_store.h"
#include "vision/sampler.h"

namespace jl
{

/// Reads the 33 body points from a region of a frame.
class LandmarkNetwork
{
public:
    struct Reading {
        BodyFrame body;
        Region next; ///< where to look in the next frame
    };

    static Result<LandmarkNetwork> load(LandmarkModel model);

    Reading read(const Frame& frame, const Region& region);

    /// Refinement by the heat map: around a point (in 256 pixel crop coordinates), the mean of the 7x7 cells
    /// of its map weighted with their sigmoid, where the largest is at least one half; otherwise the point as
    /// it was. The map is 64 x 64 x 39, NHWC.
    static Eigen::Vector2d refined(const Eigen::Vector2d& point, const float* heatMap, int landmark);

    static constexpr int kInputSize = 256;

private:
    explicit LandmarkNetwork(Network network) : m_network(std::move(network)) {}
    Network m_network;
};

} // namespace jl
