#include "vision/uprights.h"
#include "base/angles.h"
#include "vision/coarse_picture.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace jl
{
namespace
{

using Eigen::Matrix2d;
using Eigen::Vector2d;

constexpr int kLonger = 640;       ///< pixels of the longer side of the picture that is looked at
constexpr float kEdge = 4;         ///< levels a pixel
constexpr double kShortest = 0.06; ///< of the picture's height, of an edge that counts
constexpr double kStraight = 0.5;  ///< pixels rms
constexpr double kMostRoll = 12, kSteepest = 16; ///< deg from upright
constexpr double kTilt = 4, kTiltSpread = 4;     ///< deg downwards, of cameras on stands
constexpr double kLeanSpread =
    0.5; ///< deg, of one edge: lenses bend lines a little, and furniture is not true

/// A straight edge that is about upright in the picture.
struct Edge {
    double x, y;   ///< its middle, from that of the picture, in focal lengths
    double lean;   ///< deg, positive where its top is to the right
    double length; ///< of the picture's height
};

/// Edges are followed downwards, pixel by pixel, by how bright the picture becomes from left to right.
class EdgeFinder
{
public:
    EdgeFinder(const CoarsePicture& picture, const BodyFrame& body)
        : m_picture(picture), m_body(body, picture.scale),
          m_lowest(body.seen ? static_cast<int>(midHip(body).y() / picture.scale) : picture.height * 3 / 5),
          m_taken(picture.light.size(), false)
    {
        m_lowest = std::clamp(m_lowest, 1, picture.height - 1);
    }

    std::vector<Edge> find()
    {
        std::vector<Edge> edges;
        for (int y = 1; y < m_lowest; ++y)
            for (int x = 2; x + 2 < m_picture.width; ++x)
                if (begins(x, y)) {
                    const auto edge = straight(followed(x, y));
                    if (edge) edges.push_back(*edge);
                }
        return edges;
    }

private:
    float across(int x, int y) const { return 0.5f * (m_picture.at(x + 1, y) - m_picture.at(x - 1, y)); }
    bool begins(int x, int y) const
    {
        const float here = std::abs(across(x, y));
        return here > kEdge && !m_taken[at(x, y)] && here >= std::abs(across(x - 1, y)) &&
               here > std::abs(across(x + 1, y));
    }
    std::size_t at(int x, int y) const { return static_cast<std::size_t>(y) * m_picture.width + x; }

    std::vector<Vector2d> followed(int x, int y)
    {
        const float sign = across(x, y) > 0 ? 1.f : -1.f;
        const auto rise = [&](int i) { return sign * across(i, y); };
        std::vector<Vector2d> points;
        for (; y < m_lowest; ++y) {
            for (const int next : {x - 1, x + 1})
                if (rise(next) > rise(x)) x = next;
            if (x < 2 || x + 2 >= m_picture.width || rise(x) < kEdge || m_body.holds(x, y)) break;
            for (int i = -1; i <= 1; ++i)
                m_taken[at(x + i, y)] = true;
            const double bend = rise(x - 1) + rise(x + 1) - 2 * rise(x);
            const double top = bend < 0 ? 0.5 * (rise(x - 1) - rise(x + 1)) / bend : 0;
            points.emplace_back(x + std::clamp(top, -1.0, 1.0), y);
        }
        return points;
    }

    std::optional<Edge> straight(const std::vector<Vector2d>& points) const
    {
        const auto n = static_cast<double>(points.size());
        if (n < kShortest * m_picture.height) return {};
        Vector2d middle = Vector2d::Zero();
        for (const Vector2d& p : points)
            middle += p / n;
        double xy = 0, yy = 0, xx = 0;
        for (const Vector2d& p : points) {
            const Vector2d d = p - middle;
            xy += d.x() * d.y();
            yy += d.y() * d.y();
            xx += d.x() * d.x();
        }
        const double slope = xy / yy, rms = std::sqrt(std::max(0.0, xx - slope * xy) / n);
        const double lean = -std::atan(slope) * kDegPerRad;
        if (rms > kStraight || std::abs(lean) > kSteepest) return {};
        const double focal = 0.9 * std::max(m_picture.width, m_picture.height);
        return Edge{(middle.x() - 0.5 * m_picture.width) / focal,
                    (middle.y() - 0.5 * m_picture.height) / focal, lean, n / m_picture.height};
    }

    const CoarsePicture& m_picture;
    BodyBox m_body;
    int m_lowest;
    std::vector<bool> m_taken;
};

/// By how much an edge leans that is upright in the room, deg: uprights run together far below (or above).
double leanOf(const Edge& e, double roll, double tilt)
{
    const double c = std::cos(roll * kRadPerDeg), s = std::sin(roll * kRadPerDeg),
                 k = std::tan(tilt * kRadPerDeg);
    const double x = c * e.x + s * e.y, y = c * e.y - s * e.x;
    return roll + std::atan2(k * x, 1 - k * y) * kDegPerRad;
}

} // namespace

std::optional<CameraRoll> rollByUprights(const Frame& frame, const BodyFrame& body)
{
    constexpr double leastLength = 0.3, leastShare = 0.6, most = 1.0; // picture heights; of all edges; deg
    constexpr int leastCount = 3;
    const auto edges = EdgeFinder(CoarsePicture(frame, kLonger).softened(1), body).find();
    const auto off = [&](const Edge& e, double roll, double tilt) {
        return (e.lean - leanOf(e, roll, tilt)) / kLeanSpread;
    };
    // What does not fit costs the same however badly: it is no upright.
    double least = std::numeric_limits<double>::infinity(), roll = 0, tilt = 0;
    for (double r = -kMostRoll; r <= kMostRoll; r += 0.25)
        for (double t = kTilt - 3 * kTiltSpread; t <= kTilt + 3 * kTiltSpread; t += 1) {
            const double usual = (t - kTilt) / kTiltSpread;
            double cost = 0.05 * usual * usual;
            for (const Edge& e : edges)
                cost += e.length * std::min(1.0, 0.25 * off(e, r, t) * off(e, r, t));
            if (cost < least) {
                least = cost;
                roll = r;
                tilt = t;
            }
        }
    double held = 0, all = 0;
    int count = 0;
    Matrix2d normal = Matrix2d::Zero();
    normal(1, 1) = 1 / (kTiltSpread * kTiltSpread);
    Vector2d right(0, (kTilt - tilt) * normal(1, 1));
    for (const Edge& e : edges) {
        all += e.length;
        if (std::abs(off(e, roll, tilt)) > 2) continue;
        held += e.length;
        ++count;
        const double weight = std::min(1.0, e.length / 0.2); // short ones lie less surely
        const Vector2d change =
            Vector2d(1, leanOf(e, roll, tilt + 0.5) - leanOf(e, roll, tilt - 0.5)) / kLeanSpread;
        normal += weight * change * change.transpose();
        right += weight * off(e, roll, tilt) * change;
    }
    if (count < leastCount || held < leastLength || held < leastShare * all) return {};
    const Matrix2d covariance = normal.inverse();
    const CameraRoll found{roll + (covariance * right)[0], std::sqrt(covariance(0, 0))};
    return found.spread <= most ? std::optional(found) : std::nullopt;
}

} // namespace jl
