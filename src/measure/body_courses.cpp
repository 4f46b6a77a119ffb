#include "measure/body_courses.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include "body/mass_model.h"
#include "body/savitzky_golay.h"
#include "measure/travel.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of shift and sinking of a phase.
/// Chosen on: not recorded.
struct BodyCourseOptions {
    /// Way of the centre of mass below which nothing shifts. x0.5 and x2: none.
    Metres leastShift = 0.08;
    /// Way of the pelvis below which nothing sinks. x0.5 and x2: none.
    Metres leastSink = 0.025;
};
constexpr BodyCourseOptions kOptions;

template <class Of>
std::vector<double> course(const BodyMotion& motion, const Stretch& s, const Of& of)
{
    std::vector<double> values;
    for (std::size_t i : s.frame)
        values.push_back(of(motion.frames[i]));
    return values;
}

} // namespace

Stretch::Stretch(const BodyMotion& motion, double begin, double end)
{
    for (std::size_t i = 0; i < motion.frames.size(); ++i) {
        if (motion.time[i] <= begin || motion.time[i] > end) continue;
        ++asked;
        if (!std::isfinite(hipHeight(motion.frames[i]))) continue;
        frame.push_back(i);
        time.push_back(motion.time[i]);
    }
    if (size() > 1) step = (time.back() - time.front()) / static_cast<double>(size() - 1);
}

double hipHeight(const BodyPoints& p)
{
    return 0.5 * (p[index(Landmark::LeftHip)].z() + p[index(Landmark::RightHip)].z());
}

std::vector<double> smoothed(std::vector<double> course, double step)
{
    savitzkyGolay(course, std::max(1, static_cast<int>(std::round(0.5 * kCourseWindow / step))));
    return course;
}

double rangeOf(const std::vector<double>& course)
{
    const auto [low, high] = std::minmax_element(course.begin(), course.end());
    return *high - *low;
}

std::vector<double> pelvisHeading(const BodyMotion& motion, const Stretch& s)
{
    // Hips are read badly from the side, and a turn of theirs the wrong way round would stay: the chest,
    // against which they are twisted by less than half a turn, says which way it went.
    auto heading = course(motion, s, [](const BodyPoints& p) {
        return JointGeometry::facing(JointGeometry{p}.across(Landmark::LeftShoulder));
    });
    for (std::size_t i = 1; i < heading.size(); ++i)
        heading[i] = heading[i - 1] + wrapDeg(heading[i] - heading[i - 1]);
    for (std::size_t i = 0; i < heading.size(); ++i)
        heading[i] -= JointGeometry{motion.frames[s.frame[i]]}.waistTwist();
    return smoothed(std::move(heading), s.step);
}

std::vector<double> massSpeed(const BodyMotion& motion, const Stretch& s,
                              const std::optional<Eigen::Vector3d>& hidden)
{
    std::vector<double> x, y;
    for (std::size_t i : s.frame) {
        Eigen::Vector3d mass = centreOfMass(motion.frames[i]);
        if (hidden) mass -= *hidden * hidden->dot(mass);
        x.push_back(mass.x());
        y.push_back(mass.y());
    }
    std::vector<double> speed = changeOf(smoothed(std::move(x), s.step), s.step);
    const auto alongY = changeOf(smoothed(std::move(y), s.step), s.step);
    double way = 0;
    for (std::size_t i = 0; i < s.size(); ++i) {
        speed[i] = std::hypot(speed[i], alongY[i]);
        way += speed[i] * s.step;
    }
    return way < kOptions.leastShift ? std::vector<double>{} : speed;
}

std::vector<double> sinkSpeed(const BodyMotion& motion, const Stretch& s)
{
    const auto height = smoothed(course(motion, s,
                                        [](const BodyPoints& p) {
                                            return 0.5 * (p[index(Landmark::LeftShoulder)].z() +
                                                          p[index(Landmark::RightShoulder)].z());
                                        }),
                                 s.step);
    std::vector<double> speed(height.size(), 0);
    double highest = height.front(), sunk = 0;
    for (std::size_t i = 1; i < height.size(); ++i) {
        speed[i] = std::max(0.0, height[i - 1] - height[i]) / s.step;
        highest = std::max(highest, height[i]);
        sunk = std::max(sunk, highest - height[i]);
    }
    return sunk < kOptions.leastSink ? std::vector<double>{} : speed;
}

} // namespace jl
