#pragma once
#include "base/units.h"
#include "body/track.h"
#include "lineup/cost.h"
#include "standards/model_performance.h"

namespace jl
{

/// A line of the body in the picture, from one landmark to another. Pictures of bodies are compared by lines,
/// not points, so that where the body stands does not matter.
struct BodyLine {
    Landmark a, b;
    Ratio weight;
};
inline constexpr std::size_t kBodyLineCount = 15;

/// The lines of one picture, in standing sizes (see standingSize()); x right, y down.
using BodyLines = std::array<Eigen::Vector2d, kBodyLineCount>;

BodyLines bodyLines(const BodyFrame& frame, double standingSize);

/// Dissimilarity of two pictures without the legs, of the legs, and of the legs when left and right are
/// swapped. Each line is clipped, so that a misread one has limited weight.
struct Dissimilarity {
    Cost rest = 0, legs = 0, swappedLegs = 0;
    /// Networks sometimes swap left and right; legs that match much better swapped count as such,
    /// at a small cost.
    double tolerant() const;
};
Dissimilarity dissimilarity(const BodyLines& picture, const BodyLines& model);
/// dissimilarity().tolerant(), without looking at exchanged legs where they could not matter.
double tolerantDissimilarity(const BodyLines& picture, const BodyLines& model);

/// The pictures of the model performer by an ordinary camera that looks down a little, from a direction (deg)
/// and a distance (m) from the middle of the ground that is covered. Where the body walks aside the camera
/// sees it from another direction; a bone itself is drawn without perspective.
class ModelPictures
{
public:
    ModelPictures(const ModelPerformance& model, double azimuth, double distance);
    /// The model's moves done elsewhere: where another model stands at that time, turned by so much, deg
    /// clockwise from above. Both models are kept by reference.
    ModelPictures(const ModelPerformance& model, double azimuth, double distance,
                  const ModelPerformance& standsAs, double turned);
    BodyLines at(double modelTime) const { return linesOf(m_model.at(modelTime), modelTime); }
    /// Of a body in other ways (points in the model's room frame) where the model is at a time.
    BodyLines linesOf(const BodyPoints& points, double modelTime) const;
    /// The camera's direction from where the body stands then, deg.
    double azimuthFrom(double modelTime) const;
    /// The picture's points about the middle of the hips, in m.
    BodyFrame frameAt(double modelTime) const;

private:
    struct Sight {
        Eigen::Vector3d right, down;
        Ratio scale; ///< 1 at the distance asked for
        Eigen::Vector2d of(const Eigen::Vector3d& v) const
        {
            return scale * Eigen::Vector2d(right.dot(v), down.dot(v));
        }
    };
    Sight sightOf(double modelTime) const;

    const ModelPerformance &m_model, &m_standsAs;
    double m_turned;
    Eigen::Vector3d m_camera; ///< on the floor
    double m_distance;
    double m_size = 1;
};

/// About how far from the performer the camera of a clip stands, m, for a body of the usual height and a lens
/// of the usual angle.
double usualDistance(const Track& track, double standingSize);

} // namespace jl
