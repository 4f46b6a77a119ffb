#include "measure/floor_contact.h"
#include "base/two_state_path.h"
#include "base/units.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

using Eigen::Vector3d;

/// Options of the two-state path that decides where a foot stands.
/// Chosen on: the quick set (validate --quick).
struct FloorContactOptions {
    /// Standard deviation of the speed of a point that rests. x0.5: n +1 %; x2: err +1 %, n -0.7 %.
    MetresPerSecond restSpeed = 0.12;
    /// Standard deviation of the height of a point that lies. x0.5: err -0.6 %, n +0.7 %; x2: err +0.7 %.
    Metres restHeight = 0.03;
    /// Half squares at which the cost of one frame is clipped. x0.5 and x2: none.
    Ratio mostCost = 8;
    /// By which heel and toe differ when a foot lands on one of them. x0.5 and x2: none.
    Metres tilt = 0.025;
    /// Height up to which the sole lies. x0.5 and x2: none.
    Metres flat = 0.018;
    /// Height of both feet above which the body has left the floor, and for how long at least.
    Metres leap = 0.045;
    Seconds shortestLeap = 0.1;
};
constexpr FloorContactOptions kOptions;

/// Costs of a hypothesis, in half squares at 20 frames a second.
struct Costs {
    double air;    ///< of a frame in the air
    double change; ///< of touching or lifting
};
constexpr Costs kExpectedStep{2, 5}, kOtherStep{5.5, 20}, kAnyStep{3.5, 12};

/// One point of a foot over time: speed over the floor and height over where it usually lies.
struct PointCourse {
    std::vector<double> speed, height;
};

PointCourse courseOf(const BodyMotion& m, Landmark l)
{
    const std::size_t n = m.frames.size();
    PointCourse c{std::vector<double>(n, 0), std::vector<double>(n, 0)};
    std::vector<double> sorted;
    for (const BodyPoints& p : m.frames)
        if (p[index(l)].allFinite()) sorted.push_back(p[index(l)].z());
    if (sorted.empty()) return c;
    const auto fifth = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 5);
    std::nth_element(sorted.begin(), fifth, sorted.end());
    for (std::size_t i = 0; i < n; ++i) {
        const Vector3d &before = m.frames[i > 0 ? i - 1 : 0][index(l)],
                       &after = m.frames[std::min(i + 1, n - 1)][index(l)];
        const double dt = m.time[std::min(i + 1, n - 1)] - m.time[i > 0 ? i - 1 : 0];
        c.speed[i] = (after - before).norm() / std::max(1e-3, dt);
        c.height[i] = m.frames[i][index(l)].z() - *fifth;
    }
    return c;
}

double square(double x)
{
    return x * x;
}

/// Half square by which a point's rest is unlikely.
double unrest(const PointCourse& c, std::size_t i)
{
    return 0.5 * (square(c.speed[i] / kOptions.restSpeed) +
                  square(std::max(0.0, c.height[i]) / kOptions.restHeight));
}

std::vector<bool> standing(const BodyMotion& m, const PointCourse& heel, const PointCourse& toe,
                           const std::vector<bool>& expected)
{
    const std::size_t n = m.frames.size();
    const double rate = n > 1 ? static_cast<double>(n - 1) / (m.time.back() - m.time.front()) : 20;
    std::vector<bool> inAir =
        twoStatePath(n, {0, kOptions.mostCost}, [&](std::size_t i) -> std::optional<TwoStateCosts> {
            const Costs& costs = expected.empty() ? kAnyStep : expected[i] ? kExpectedStep : kOtherStep;
            double rest = std::min(unrest(heel, i), unrest(toe, i));
            if (!std::isfinite(rest)) rest = costs.air;
            return TwoStateCosts{{std::min(kOptions.mostCost, rest), costs.air}, 0, costs.change * rate / 20};
        });
    inAir.flip();
    return inAir;
}

void addMeetings(const BodyMotion& m, const PointCourse& heel, const PointCourse& toe, Side side,
                 FloorContact& out)
{
    const std::vector<bool>& course = out.stands[static_cast<std::size_t>(side)];
    for (std::size_t i = 1; i < course.size(); ++i) {
        if (course[i] == course[i - 1]) continue;
        FootEvent meeting{side, !course[i], 0.5 * (m.time[i - 1] + m.time[i]), "", 0};
        const auto tilt = [&](std::size_t k) { return toe.height[k] - heel.height[k]; };
        if (course[i]) {
            meeting.how = tilt(i) > kOptions.tilt ? "heel" : tilt(i) < -kOptions.tilt ? "toe" : "flat";
            std::size_t k = i;
            while (k + 1 < course.size() && course[k] && std::abs(tilt(k)) > kOptions.flat)
                ++k;
            meeting.flatAt = m.time[k];
        }
        out.footEvents.push_back(meeting);
    }
}

void addLeaps(const BodyMotion& m, FloorContact& out)
{
    const std::size_t n = m.frames.size();
    for (std::size_t i = 0; i < n;) {
        Leap leap{m.time[i], m.time[i], 0};
        for (; i < n; ++i) {
            const double left = out.height[0][i], right = out.height[1][i];
            if (!(left > kOptions.leap && right > kOptions.leap)) break;
            leap.height = std::max(leap.height, std::min(left, right));
            leap.end = m.time[i];
        }
        if (leap.end - leap.begin >= kOptions.shortestLeap)
            out.leaps.push_back(leap);
        else
            ++i;
    }
}

} // namespace

FloorContact floorContact(const BodyMotion& motion, const ExpectedSteps& expected)
{
    FloorContact out;
    if (motion.frames.empty()) return out;
    for (Side side : {Side::Left, Side::Right}) {
        const PointCourse heel = courseOf(motion, sided(Landmark::LeftHeel, side)),
                          toe = courseOf(motion, sided(Landmark::LeftToe, side));
        out.stands[static_cast<std::size_t>(side)] =
            standing(motion, heel, toe, expected[static_cast<std::size_t>(side)]);
        addMeetings(motion, heel, toe, side, out);
        for (std::size_t i = 0; i < motion.frames.size(); ++i)
            out.height[static_cast<std::size_t>(side)].push_back(std::min(heel.height[i], toe.height[i]));
    }
    addLeaps(motion, out);
    std::sort(out.footEvents.begin(), out.footEvents.end(),
              [](const FootEvent& a, const FootEvent& b) { return a.time < b.time; });
    return out;
}

} // namespace jl
