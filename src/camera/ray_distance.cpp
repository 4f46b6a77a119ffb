#include "camera/ray_distance.h"
#include "base/median.h"
#include "base/units.h"
#include "body/motion.h"
#include "camera/joints.h"
#include "camera/synchrony.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of the lag between two filmed tracks from changes of the ray distance.
/// Chosen on: 180 pairs of exact points with network errors at 30 and 24 frames/s.
struct RayLagOptions {
    /// Between two moments. x0.5 and x2: none.
    Seconds step = 1 / 15.0;
    /// At most; farther apart in long clips. x0.5 and x2: none.
    Ratio moments = 1500;
    /// To either side, over which the change of a ray distance is taken. x0.5 and x2: none.
    Seconds reach = 0.05;
    /// Standing sizes that the points move on average until the correlation of their errors falls to 1/e.
    /// Rendered clips show 0.055 to 0.085 times the body's height. x0.5 and x2: none.
    Ratio poseReach = 0.1;
    /// Visibility from which a point counts. x0.5 and x2: none.
    Share seen = 0.5;
    /// Moments below which a point does not count. x0.5 and x2: none.
    std::size_t fewest = 20;
    /// Floor of the robust spread of a point. x0.5 and x2: none.
    Metres leastSpread = 0.004;
    /// Spreads at which a single ray distance is clipped. x0.5 and x2: none.
    Ratio largest = 3;
    /// Largest lag. x0.5 and x2: none.
    Seconds most = 0.08;
    /// Gauss-Newton rounds at most: the path of a point between two moments is taken as straight.
    /// x0.5 and x2: none.
    int rounds = 4;
    /// Change of the lag that ends the rounds. x0.5 and x2: none.
    Seconds converged = 0.0005;
    /// Largest correlation of the errors of two moments, for a body that stands still.
    /// x0.5: err +0.8 %; x2: none.
    Ratio mostCorrelated = 0.98;
};
constexpr RayLagOptions kOptions;

/// The joints, and of the head what is seen from every side: it moves up and down with the body and is the
/// steadiest.
constexpr auto kPoints = [] {
    std::array<Landmark, kJoints.size() + 3> points{};
    auto head = std::copy(kJoints.begin(), kJoints.end(), points.begin());
    for (Landmark l : {Landmark::LeftEar, Landmark::RightEar, Landmark::Nose})
        *head++ = l;
    return points;
}();

/// A clip about one moment.
struct Moment {
    double time; ///< s
    BodyFrame before, at, after;
    double way = 0; ///< that the points went until then, standing sizes

    Moment(const Track& track, double t)
        : time(t), before(frameAt(track, t - kOptions.reach)), at(frameAt(track, t)),
          after(frameAt(track, t + kOptions.reach))
    {
    }
    bool seen() const { return before.seen && at.seen && after.seen; }
};

/// Of all points on average, pixels.
double wayBetween(const BodyFrame& a, const BodyFrame& b)
{
    double sum = 0;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        sum += (b.point[k] - a.point[k]).norm();
    return sum / static_cast<double>(kLandmarkCount);
}

/// The gaps of one point over time, and how alike its errors are to those of the moment before.
struct Course {
    std::vector<double> gap, opening, alike; ///< m, m/s with the lag of the second clip, 0 to 1
};

/// What each moment says by itself, without what follows from the one before.
std::vector<double> innovations(const std::vector<double>& values, const std::vector<double>& alike)
{
    const double usual = median(values);
    std::vector<double> out;
    for (std::size_t i = 1; i < values.size(); ++i)
        out.push_back((values[i] - usual - alike[i] * (values[i - 1] - usual)) /
                      std::sqrt(1 - alike[i] * alike[i]));
    return out;
}

/// Normal equation of the lag.
struct Pull {
    double gap = 0, opening = 0;

    void add(const Course& course)
    {
        if (course.gap.size() < kOptions.fewest) return;
        const std::vector<double> gaps = innovations(course.gap, course.alike),
                                  openings = innovations(course.opening, course.alike);
        std::vector<double> sizes;
        sizes.reserve(gaps.size());
        for (double g : gaps)
            sizes.push_back(std::abs(g));
        const double spread = std::max(kOptions.leastSpread, 1.48 * median(std::move(sizes)));
        for (std::size_t i = 0; i < gaps.size(); ++i) {
            const double most = kOptions.largest * spread;
            gap += std::clamp(gaps[i], -most, most) * openings[i] / (spread * spread);
            opening += openings[i] * openings[i] / (spread * spread);
        }
    }
};

/// Those of the first clip that the second shows as well.
std::vector<Moment> momentsOf(const Track& first, const Track& second, double offset)
{
    constexpr double margin = kOptions.most + kOptions.reach;
    const double begin = std::max(first.frames.front().time, second.frames.front().time - offset) + margin,
                 end = std::min(first.frames.back().time, second.frames.back().time - offset) - margin;
    const double size = standingSize(first), step = std::max(kOptions.step, (end - begin) / kOptions.moments);
    std::vector<Moment> moments;
    for (double t = begin; t < end; t += step) {
        Moment m(first, t);
        if (!m.seen()) continue;
        if (!moments.empty()) m.way = moments.back().way + wayBetween(moments.back().at, m.at) / size;
        moments.push_back(std::move(m));
    }
    return moments;
}

std::array<Course, kPoints.size()> coursesOf(const FilmedTrack& first, const std::vector<Moment>& moments,
                                             const FilmedTrack& second, double offset)
{
    std::array<Course, kPoints.size()> courses;
    std::array<double, kPoints.size()> lastWay{};
    for (const Moment& a : moments) {
        const Moment b(second.track, a.time + offset);
        if (!b.seen()) continue;
        for (std::size_t k = 0; k < kPoints.size(); ++k) {
            const std::size_t l = index(kPoints[k]);
            if (a.at.visibility[l] < kOptions.seen || b.at.visibility[l] < kOptions.seen) continue;
            const auto gap = [&](const BodyFrame& ofFirst, const BodyFrame& ofSecond) {
                return rayDistance(first.camera, ofFirst.point[l], second.camera, ofSecond.point[l]);
            };
            Course& c = courses[k];
            c.gap.push_back(gap(a.at, b.at));
            c.opening.push_back(
                (gap(a.at, b.after) - gap(a.at, b.before) + gap(a.before, b.at) - gap(a.after, b.at)) /
                (4 * kOptions.reach));
            c.alike.push_back(
                std::min(kOptions.mostCorrelated, std::exp((lastWay[k] - a.way) / kOptions.poseReach)));
            lastWay[k] = a.way;
        }
    }
    return courses;
}

} // namespace

double rayDistance(const Camera& first, const Eigen::Vector2d& a, const Camera& second,
                   const Eigen::Vector2d& b)
{
    const Eigen::Vector3d normal = first.ray(a).cross(second.ray(b));
    const double size = normal.norm();
    return size < 1e-9 ? 0 : (second.position - first.position).dot(normal) / size;
}

double lagFromRays(const FilmedTrack& first, const FilmedTrack& second, double offset)
{
    const std::vector<Moment> moments = momentsOf(first.track, second.track, offset);
    double lag = 0;
    for (int round = 0; round < kOptions.rounds; ++round) {
        Pull pull;
        for (const Course& c : coursesOf(first, moments, second, offset + lag))
            pull.add(c);
        if (pull.opening <= 0) return 0;
        const double before = lag;
        lag = std::clamp(lag - pull.gap / pull.opening, -kOptions.most, kOptions.most);
        if (std::abs(lag - before) < kOptions.converged) break;
    }
    return lag;
}

} // namespace jl
