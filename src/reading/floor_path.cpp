#include "reading/floor_path.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kInTheAir = 0.09; ///< m: both ends of a foot that is read this high

PathStop stopAt(const BodyPoints& points, std::size_t place, std::size_t phase, double time, double heading)
{
    PathStop stop{place, phase, time, heading, {}, {}};
    using enum Landmark;
    stop.hips = 0.5 * (points[index(LeftHip)] + points[index(RightHip)]).head<2>();
    for (Side s : {Side::Left, Side::Right}) {
        const Eigen::Vector3d &heel = points[index(sided(LeftHeel, s))],
                              &toe = points[index(sided(LeftToe, s))];
        stop.feet[static_cast<std::size_t>(s)] = {heel.head<2>(), toe.head<2>(),
                                                  std::min(heel.z(), toe.z()) < kInTheAir};
    }
    return stop;
}

} // namespace

FloorPath floorPath(const ClipReading& clip)
{
    FloorPath path;
    const auto places = clip.model.places();
    for (std::size_t place = 0; place < places.size(); ++place)
        for (std::size_t i = places[place].firstPhase; i <= places[place].lastPhase; ++i) {
            const FoundPhase& p = clip.phases[i].phase;
            if (!p.matched) continue;
            const BodyPoints points =
                clip.measurer->place(clip.track.frames[clip.track.nearest(p.time)], clip.priorAt(p.time));
            path.push_back(stopAt(points, place, i, p.time, p.heading));
        }
    std::stable_sort(path.begin(), path.end(),
                     [](const PathStop& a, const PathStop& b) { return a.time < b.time; });
    return path;
}

FloorPath floorPath(const ModelPerformance& model, double height)
{
    FloorPath path;
    const auto places = model.places();
    for (std::size_t place = 0; place < places.size(); ++place)
        for (std::size_t i = places[place].firstPhase; i <= places[place].lastPhase; ++i) {
            const ModelPerformance::Phase& p = model.phases[i];
            path.push_back(stopAt(model.scaledTo(height, p.time), place, i, p.time, p.heading));
        }
    return path;
}

} // namespace jl
