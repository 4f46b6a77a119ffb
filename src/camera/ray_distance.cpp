#include "camera/ray_distance.h"
#include "base/median.h"
#include "body/motion.h"
#include "camera/synchrony.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kStep = 1 / 15.0; ///< s between two moments
constexpr double kMoments = 1500;  ///< at most, farther apart in long clips
constexpr double kReach = 0.05;    ///< s to either side over which a gap's change is taken
/// Standing sizes that the points move on average until a third of their errors is left (in rendered clips
/// 0.055 to 0.085 times the body's height, little less).
constexpr double kPoseReach = 0.1;
constexpr double kSeen = 0.5;           ///< visibility
constexpr std::size_t kFewest = 20;     ///< moments that tell anything of a point
constexpr double kLeastSpread = 0.004;  ///< m, of a point's gaps
constexpr double kLargest = 3;          ///< spreads that a single gap counts at most
constexpr double kMost = 0.08;          ///< s
constexpr int kRounds = 4;              ///< a point's way between two moments is taken as straight
constexpr double kSmallEnough = 0.0005; ///< s
constexpr double kMostAlike = 0.98;     ///< two moments' errors, of a body that stands still

/// The joints, and of the head what is seen from every side: it moves up and down with the body and is the
/// steadiest.
constexpr std::array kPoints{Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftElbow,
                             Landmark::RightElbow,   Landmark::LeftWrist,     Landmark::RightWrist,
                             Landmark::LeftHip,      Landmark::RightHip,      Landmark::LeftKnee,
                             Landmark::RightKnee,    Landmark::LeftAnkle,     Landmark::RightAnkle,
                             Landmark::LeftEar,      Landmark::RightEar,      Landmark::Nose};

/// A clip about one moment.
struct Moment {
    double time; ///< s
    BodyFrame before, at, after;
    double way = 0; ///< that the points went until then, standing sizes

    Moment(const Track& track, double t)
        : time(t), before(frameAt(track, t - kReach)), at(frameAt(track, t)),
          after(frameAt(track, t + kReach))
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
        if (course.gap.size() < kFewest) return;
        const std::vector<double> gaps = innovations(course.gap, course.alike),
                                  openings = innovations(course.opening, course.alike);
        std::vector<double> sizes;
        sizes.reserve(gaps.size());
        for (double g : gaps)
            sizes.push_back(std::abs(g));
        const double spread = std::max(kLeastSpread, 1.48 * median(std::move(sizes)));
        for (std::size_t i = 0; i < gaps.size(); ++i) {
            const double most = kLargest * spread;
            gap += std::clamp(gaps[i], -most, most) * openings[i] / (spread * spread);
            opening += openings[i] * openings[i] / (spread * spread);
        }
    }
};

/// Those of the first clip that the second shows as well.
std::vector<Moment> momentsOf(const Track& first, const Track& second, double offset)
{
    constexpr double margin = kMost + kReach;
    const double begin = std::max(first.frames.front().time, second.frames.front().time - offset) + margin,
                 end = std::min(first.frames.back().time, second.frames.back().time - offset) - margin;
    const double size = standingSize(first), step = std::max(kStep, (end - begin) / kMoments);
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
            if (a.at.visibility[l] < kSeen || b.at.visibility[l] < kSeen) continue;
            const auto gap = [&](const BodyFrame& ofFirst, const BodyFrame& ofSecond) {
                return rayDistance(first.camera, ofFirst.point[l], second.camera, ofSecond.point[l]);
            };
            Course& c = courses[k];
            c.gap.push_back(gap(a.at, b.at));
            c.opening.push_back(
                (gap(a.at, b.after) - gap(a.at, b.before) + gap(a.before, b.at) - gap(a.after, b.at)) /
                (4 * kReach));
            c.alike.push_back(std::min(kMostAlike, std::exp((lastWay[k] - a.way) / kPoseReach)));
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
    for (int round = 0; round < kRounds; ++round) {
        Pull pull;
        for (const Course& c : coursesOf(first, moments, second, offset + lag))
            pull.add(c);
        if (pull.opening <= 0) return 0;
        const double before = lag;
        lag = std::clamp(lag - pull.gap / pull.opening, -kMost, kMost);
        if (std::abs(lag - before) < kSmallEnough) break;
    }
    return lag;
}

} // namespace jl
