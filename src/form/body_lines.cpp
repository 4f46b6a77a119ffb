#include "form/body_lines.h"
#include "base/angles.h"
#include "body/motion.h"
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace
{

constexpr std::array<BodyLine, kBodyLineCount> kLines{{
    {Landmark::LeftShoulder, Landmark::LeftElbow, 0.6},
    {Landmark::RightShoulder, Landmark::RightElbow, 0.6},
    {Landmark::LeftElbow, Landmark::LeftWrist, 0.6},
    {Landmark::RightElbow, Landmark::RightWrist, 0.6},
    {Landmark::LeftHip, Landmark::LeftKnee, 1.0},
    {Landmark::RightHip, Landmark::RightKnee, 1.0},
    {Landmark::LeftKnee, Landmark::LeftAnkle, 1.0},
    {Landmark::RightKnee, Landmark::RightAnkle, 1.0},
    {Landmark::LeftHeel, Landmark::LeftToe, 0.7},
    {Landmark::RightHeel, Landmark::RightToe, 0.7},
    {Landmark::LeftAnkle, Landmark::RightAnkle, 1.0},
    {Landmark::LeftShoulder, Landmark::RightShoulder, 0.8},
    {Landmark::LeftHip, Landmark::RightHip, 0.6},
    {Landmark::LeftHip, Landmark::LeftShoulder, 0.8},
    {Landmark::RightHip, Landmark::RightShoulder, 0.8},
}};
constexpr std::size_t kFirstLegLine = 4, kAnklesLine = 10;
constexpr double kExchangePrice = 0.02;
constexpr double kMostUnlike = 0.05; ///< a line that the network misread counts no more than this
constexpr double kCameraTilt = 5;    ///< deg

/// Unlikeness of one line of the picture with one of the model.
double unlike(const BodyLines& a, std::size_t lineOfA, const BodyLines& b, std::size_t lineOfB,
              double sign = 1)
{
    return kLines[lineOfB].weight * std::min(kMostUnlike, (sign * a[lineOfA] - b[lineOfB]).squaredNorm());
}

template <class PointOf>
BodyLines linesOf(PointOf point, double size)
{
    BodyLines lines;
    for (std::size_t i = 0; i < kBodyLineCount; ++i)
        lines[i] = (point(kLines[i].b) - point(kLines[i].a)) / size;
    return lines;
}

} // namespace

BodyLines bodyLines(const BodyFrame& frame, double standingSize)
{
    return linesOf([&](Landmark l) { return frame.at(l); }, standingSize);
}

double Unlikeness::tolerant() const
{
    return rest + std::min(legs, exchangedLegs + kExchangePrice);
}

Unlikeness unlikeness(const BodyLines& a, const BodyLines& b)
{
    Unlikeness u;
    for (std::size_t i = 0; i < kBodyLineCount; ++i) {
        if (i < kFirstLegLine || i > kAnklesLine) {
            u.rest += unlike(a, i, b, i);
            continue;
        }
        u.legs += unlike(a, i, b, i);
        // Lines of the legs stand in pairs; the line from ankle to ankle turns round.
        if (i == kAnklesLine)
            u.exchangedLegs += unlike(a, i, b, i, -1);
        else
            u.exchangedLegs += unlike(a, (i - kFirstLegLine) % 2 == 0 ? i + 1 : i - 1, b, i);
    }
    return u;
}

ModelPictures::ModelPictures(const ModelPerformance& model, double azimuth) : m_model(model)
{
    const double tilt = kCameraTilt * kRadPerDeg;
    m_right = -rightOf(azimuth);
    m_down = -Vector3d::UnitZ() * std::cos(tilt) + forwardOf(azimuth) * std::sin(tilt);
    constexpr std::size_t some = 10; // of the frames are enough to tell how tall the body stands
    std::vector<double> extents;
    for (std::size_t i = 0; i < model.frames.size(); i += some) {
        const BodyPoints& p = model.frames[i];
        extents.push_back((seen(0.5 * (p[index(Landmark::LeftAnkle)] + p[index(Landmark::RightAnkle)])) -
                           seen(0.5 * (p[index(Landmark::LeftEar)] + p[index(Landmark::RightEar)])))
                              .norm());
    }
    m_size = tallestDecile(std::move(extents));
}

Vector2d ModelPictures::seen(const Vector3d& p) const
{
    return {m_right.dot(p), m_down.dot(p)};
}

BodyLines ModelPictures::at(double modelTime) const
{
    const BodyPoints& p = m_model.at(modelTime);
    return linesOf([&](Landmark l) { return seen(p[index(l)]); }, m_size);
}

} // namespace jl
