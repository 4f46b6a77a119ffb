#pragma once
#include "base/units.h"
#include "lineup/connected_warping.h"
#include "lineup/picture_series.h"
#include "standards/model_performance.h"

namespace jl
{

/// The ways in which the postures of a model may be done, as states of a connected warping, as a camera sees
/// them from a direction (deg) and a distance (m); so many states for a second of the model, which is kept by
/// reference.
class PostureWays
{
public:
    struct Way {
        bool otherSide = false;
        Degrees turned = 0;      ///< deg, clockwise from above
        bool rearranged = false; ///< come to from elsewhere than in the form:
        std::size_t after = 0;   ///< from this place of it
    };

    /// As in the form.
    PostureWays(const ModelPerformance& model, double azimuth, double distance, double rate);
    /// Adds, for some of the places, the posture turned, and on the other side where the mirrored form is at
    /// hand. Standing has no other way.
    void addTurned(const std::vector<bool>& places, const ModelPerformance* mirrored);
    /// Adds some of the postures as they are done where another order or way leads into them.
    void addRearranged(const std::vector<bool>& places);

    std::size_t places() const { return m_places.size(); }
    const std::vector<WarpingSegment>& segments() const { return m_segments; } ///< the usual ones first
    const Way& way(int segment) const { return m_ways[static_cast<std::size_t>(segment)]; }
    const WarpingSegment& segment(int segment) const { return m_segments[static_cast<std::size_t>(segment)]; }
    const BodyLines& linesAt(int state) const { return m_series.lines[static_cast<std::size_t>(state)]; }
    double modelTimeAt(int state) const { return m_series.time[static_cast<std::size_t>(state)]; } ///< s

private:
    /// A part of a rearrangement, as the camera sees it; times are the model's.
    struct SeenPart {
        std::size_t part = 0;
        PictureSeries pictures;
    };
    std::vector<SeenPart> seenIn(const ModelPerformance::Rearrangement& r,
                                 const std::vector<bool>& places) const;
    WarpingSegment& add(std::size_t place, PictureSeries pictures, Way way);

    const ModelPerformance& m_model;
    double m_azimuth, m_distance, m_rate;
    std::vector<ModelPerformance::Place> m_places;
    ModelPictures m_seen;
    std::vector<WarpingSegment> m_segments;
    std::vector<Way> m_ways; ///< of each segment
    PictureSeries m_series;  ///< of all states; times are the model's
};

} // namespace jl
