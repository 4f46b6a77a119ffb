#pragma once
#include "body/track.h"
#include "form/model_performance.h"

namespace jl
{

/// A line of the body in the picture, from one landmark to another. Pictures of bodies are compared by lines,
/// not points, so that where the body stands does not matter.
struct BodyLine {
    Landmark a, b;
    double weight;
};
inline constexpr std::size_t kBodyLineCount = 15;

/// The lines of one picture, in standing sizes (see standingSize()); x right, y down.
using BodyLines = std::array<Eigen::Vector2d, kBodyLineCount>;

BodyLines bodyLines(const BodyFrame& frame, double standingSize);

/// How unlike two pictures are, apart from the legs; of the legs; and of the legs when one leg is taken for
/// the other. A line that is read wrongly altogether counts no more than a limit.
struct Unlikeness {
    double rest = 0, legs = 0, exchangedLegs = 0;
    /// The networks sometimes take one leg for the other; legs that fit much better exchanged count as such,
    /// at a small price.
    double tolerant() const;
};
Unlikeness unlikeness(const BodyLines& picture, const BodyLines& model);

/// The picture of the model performer from a direction, without perspective, by an ordinary camera that looks
/// down a little.
class ModelPictures
{
public:
    ModelPictures(const ModelPerformance& model, double azimuth);
    BodyLines at(double modelTime) const;

private:
    Eigen::Vector2d seen(const Eigen::Vector3d& point) const;

    const ModelPerformance& m_model;
    Eigen::Vector3d m_right, m_down;
    double m_size = 1;
};

} // namespace jl
