#include "vision/landmark_network.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

const char* const kPoints = "Identity";    // 39 x (x, y, z in crop pixels, visibility logit, presence logit)
const char* const kScore = "Identity_1";   // already through a sigmoid
const char* const kHeatMap = "Identity_3"; // 64 x 64 x 39
const char* const kMetric = "Identity_4";  // 39 x (x, y, z) in metres about the mid-hip
constexpr int kChannels = 39;
constexpr int kMapSize = 64;
constexpr int kHipPoint = 33, kRimPoint = 34;

double sigmoid(double x)
{
    return 1 / (1 + std::exp(-x));
}

} // namespace

Result<LandmarkNetwork> LandmarkNetwork::load(LandmarkModel model)
{
    auto path = landmarkFile(model);
    if (!path) return path.error();
    auto network = Network::load(*path, {kPoints, kScore, kHeatMap, kMetric});
    if (!network) return network.error();
    return LandmarkNetwork(std::move(*network));
}

Eigen::Vector2d LandmarkNetwork::refined(const Eigen::Vector2d& point, const float* heatMap, int landmark)
{
    constexpr int cell = kInputSize / kMapSize, reach = 3;
    const int cx = static_cast<int>(std::floor(point.x() / cell)),
              cy = static_cast<int>(std::floor(point.y() / cell));
    double sum = 0, largest = 0;
    Eigen::Vector2d weighted(0, 0);
    for (int y = std::max(0, cy - reach); y < std::min(kMapSize, cy + reach + 1); ++y) {
        for (int x = std::max(0, cx - reach); x < std::min(kMapSize, cx + reach + 1); ++x) {
            const double value = sigmoid(heatMap[(y * kMapSize + x) * kChannels + landmark]);
            sum += value;
            largest = std::max(largest, value);
            weighted += value * Eigen::Vector2d(x, y);
        }
    }
    return largest >= 0.5 ? Eigen::Vector2d(weighted / sum * cell) : point;
}

LandmarkNetwork::Reading LandmarkNetwork::read(const Frame& frame, const Region& region)
{
    sampleRegion(frame, region, kInputSize, 1, 1 / 255.f, 0.f, m_network.input());
    m_network.run();
    const float* points = m_network.output(kPoints).values.data();
    const float* heat = m_network.output(kHeatMap).values.data();
    const float* metric = m_network.output(kMetric).values.data();

    const Eigen::Matrix2d toPicture = region.toPicture(kInputSize);
    const Eigen::Rotation2Dd turn(region.turn);
    const auto inPicture = [&](int i) {
        const Eigen::Vector2d crop = refined({points[5 * i], points[5 * i + 1]}, heat, i);
        return Eigen::Vector2d(region.centre +
                               toPicture * (crop - Eigen::Vector2d::Constant(0.5 * kInputSize)));
    };
    Reading out;
    out.body.time = frame.time;
    out.body.score = m_network.output(kScore).values[0];
    out.body.seen = true;
    for (int i = 0; i < static_cast<int>(kLandmarkCount); ++i) {
        out.body.point[i] = inPicture(i);
        out.body.visibility[i] = sigmoid(points[5 * i + 3]);
        const Eigen::Vector2d flat = turn * Eigen::Vector2d(metric[3 * i], metric[3 * i + 1]);
        out.body.metric[i] << flat.cast<float>(), metric[3 * i + 2];
    }
    out.next = Region::around(inPicture(kHipPoint), inPicture(kRimPoint));
    return out;
}

} // namespace jl
