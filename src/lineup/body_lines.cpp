#include "lineup/body_lines.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include "body/motion.h"
#include "camera/camera.h"
#include <Eigen/Geometry>
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
/// Options of comparing the body lines of a picture with those of the model.
/// Chosen on: the quick set (validate --quick).
struct BodyLineOptions {
    /// Of comparing with left and right legs swapped. x0.5 and x2: none.
    Cost swapCost = 0.02;
    /// At which the dissimilarity of one line is clipped. x0.5 and x2: none.
    Cost mostOfLine = 0.05;
    /// Usual tilt downwards of the camera. x0.5: err +0.7 %, u +0.8 %; x2: err +0.6 %, key -0.6.
    Degrees cameraTilt = 5;
    /// Every so many frames show where and how tall the model stands. Sampling only. x0.5 and x2: none.
    std::size_t everyFrame = 10;
    /// Least distance of the camera. x0.5 and x2: none.
    Metres nearestCamera = 1;
    /// Of a person. x0.5 and x2: none.
    Metres usualHeight = 1.68;
    /// Of the height between ankles and ears. x0.5 and x2: none.
    Share shownHeight = 0.88;
};
constexpr BodyLineOptions kOptions;

/// Dissimilarity of one line of the picture with one of the model.
double unlike(const BodyLines& a, std::size_t lineOfA, const BodyLines& b, std::size_t lineOfB,
              double sign = 1)
{
    return kLines[lineOfB].weight *
           std::min(kOptions.mostOfLine, (sign * a[lineOfA] - b[lineOfB]).squaredNorm());
}

Vector3d floorPoint(const BodyPoints& p)
{
    Vector3d middle = 0.5 * (p[index(Landmark::LeftHip)] + p[index(Landmark::RightHip)]);
    middle.z() = 0;
    return middle;
}

} // namespace

BodyLines bodyLines(const BodyFrame& frame, double standingSize)
{
    BodyLines lines;
    for (std::size_t i = 0; i < kBodyLineCount; ++i)
        lines[i] = (frame.at(kLines[i].b) - frame.at(kLines[i].a)) / standingSize;
    return lines;
}

double Dissimilarity::tolerant() const
{
    return rest + std::min(legs, swappedLegs + kOptions.swapCost);
}

namespace
{

double restUnlikeness(const BodyLines& a, const BodyLines& b)
{
    double sum = 0;
    for (std::size_t i = 0; i < kFirstLegLine; ++i)
        sum += unlike(a, i, b, i);
    for (std::size_t i = kAnklesLine + 1; i < kBodyLineCount; ++i)
        sum += unlike(a, i, b, i);
    return sum;
}

double legsUnlikeness(const BodyLines& a, const BodyLines& b)
{
    double sum = 0;
    for (std::size_t i = kFirstLegLine; i <= kAnklesLine; ++i)
        sum += unlike(a, i, b, i);
    return sum;
}

/// Lines of the legs stand in pairs; the line from ankle to ankle turns round.
double exchangedUnlikeness(const BodyLines& a, const BodyLines& b)
{
    double sum = unlike(a, kAnklesLine, b, kAnklesLine, -1);
    for (std::size_t i = kFirstLegLine; i < kAnklesLine; ++i)
        sum += unlike(a, (i - kFirstLegLine) % 2 == 0 ? i + 1 : i - 1, b, i);
    return sum;
}

} // namespace

Dissimilarity dissimilarity(const BodyLines& a, const BodyLines& b)
{
    return {restUnlikeness(a, b), legsUnlikeness(a, b), exchangedUnlikeness(a, b)};
}

double tolerantDissimilarity(const BodyLines& a, const BodyLines& b)
{
    const Dissimilarity u{restUnlikeness(a, b), legsUnlikeness(a, b), 1e9};
    return u.legs <= kOptions.swapCost ? u.tolerant()
                                       : Dissimilarity{u.rest, u.legs, exchangedUnlikeness(a, b)}.tolerant();
}

ModelPictures::ModelPictures(const ModelPerformance& model, double azimuth, double distance)
    : ModelPictures(model, azimuth, distance, model, 0)
{
}

ModelPictures::ModelPictures(const ModelPerformance& model, double azimuth, double distance,
                             const ModelPerformance& standsAs, double turned)
    : m_model(model), m_standsAs(standsAs), m_turned(turned), m_distance(distance)
{
    Eigen::AlignedBox3d ground;
    for (std::size_t i = 0; i < standsAs.frames.size(); i += kOptions.everyFrame)
        ground.extend(floorPoint(standsAs.frames[i]));
    m_camera = ground.center() + distance * forwardOf(azimuth);
    std::vector<double> extents;
    for (double t = 0; t <= model.duration(); t += kOptions.everyFrame / model.framesPerSecond) {
        const BodyPoints& p = model.at(t);
        extents.push_back(sightOf(t)
                              .of(0.5 * (p[index(Landmark::LeftAnkle)] + p[index(Landmark::RightAnkle)] -
                                         p[index(Landmark::LeftEar)] - p[index(Landmark::RightEar)]))
                              .norm());
    }
    m_size = tallestDecile(std::move(extents));
}

ModelPictures::Sight ModelPictures::sightOf(double modelTime) const
{
    constexpr double tilt = kOptions.cameraTilt * kRadPerDeg;
    Vector3d towards = m_camera - floorPoint(m_standsAs.at(modelTime));
    const double away = std::max(kOptions.nearestCamera, towards.norm());
    towards /= away;
    if (m_turned != 0) // a body turned one way looks as if the camera had gone the other
        towards = Eigen::AngleAxisd(m_turned * kRadPerDeg, Vector3d::UnitZ()) * towards;
    return {Vector3d::UnitZ().cross(towards), -Vector3d::UnitZ() * std::cos(tilt) + towards * std::sin(tilt),
            m_distance / away};
}

double ModelPictures::azimuthFrom(double modelTime) const
{
    return JointGeometry::heading(m_camera - floorPoint(m_standsAs.at(modelTime)));
}

BodyLines ModelPictures::linesOf(const BodyPoints& p, double modelTime) const
{
    const Sight sight = sightOf(modelTime);
    BodyLines lines;
    for (std::size_t i = 0; i < kBodyLineCount; ++i)
        lines[i] = sight.of(p[index(kLines[i].b)] - p[index(kLines[i].a)]) / m_size;
    return lines;
}

BodyFrame ModelPictures::frameAt(double modelTime) const
{
    const BodyPoints& p = m_model.at(modelTime);
    const Sight sight = sightOf(modelTime);
    const Vector3d middle = floorPoint(p);
    BodyFrame frame;
    frame.time = modelTime;
    frame.seen = true;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        frame.point[k] = sight.of(p[k] - middle);
    return frame;
}

double usualDistance(const Track& track, double standingSize)
{
    return kUsualFocalShare * std::max(track.width, track.height) * kOptions.usualHeight *
           kOptions.shownHeight / standingSize;
}

} // namespace jl
