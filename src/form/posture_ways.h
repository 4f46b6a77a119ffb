#pragma once
#include "form/connected_warping.h"
#include "form/model_performance.h"
#include "form/picture_series.h"

namespace jl
{

/// The ways in which the postures of a model may be done, as states of a connected warping, as a camera sees
/// them from a direction (deg) and a distance (m); so many states for a second of the model.
class PostureWays
{
public:
    struct Way {
        bool otherSide = false;
        double turned = 0;       ///< deg, clockwise from above
        bool rearranged = false; ///< come to from elsewhere than in the form
    };

    /// As in the form.
    static PostureWays usual(const ModelPerformance& model, double azimuth, double distance, double rate);
    /// As in the form and in every other way: turned, and on the other side where the mirrored form is at
    /// hand. Standing has no other way.
    static PostureWays all(const ModelPerformance& model, const ModelPerformance* mirrored, double azimuth,
                           double distance, double rate);
    /// Adds the postures as they are done where another order leads into them.
    void addRearranged(const ModelPerformance& model, double azimuth, double distance, double rate);

    const std::vector<WarpingSegment>& segments() const { return m_segments; } ///< the usual ones first
    const Way& way(int segment) const { return m_ways[static_cast<std::size_t>(segment)]; }
    const WarpingSegment& segment(int segment) const { return m_segments[static_cast<std::size_t>(segment)]; }
    const BodyLines& linesAt(int state) const { return m_series.lines[static_cast<std::size_t>(state)]; }
    double modelTimeAt(int state) const { return m_series.time[static_cast<std::size_t>(state)]; } ///< s

private:
    WarpingSegment& add(const ModelPictures& seen, std::size_t place, const ModelPerformance::Place& span,
                        double rate, Way way);

    std::vector<WarpingSegment> m_segments;
    std::vector<Way> m_ways; ///< of each segment
    PictureSeries m_series;  ///< of all states; times are the model's
};

} // namespace jl
