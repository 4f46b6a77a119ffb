#include "lineup/body_lines.h"
#include "base/angles.h"
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
constexpr double kExchangePrice = 0.02;
constexpr double kMostUnlike = 0.05; ///< a line that the network misread counts no more than this
constexpr double kCameraTilt = 5;    ///< deg

/// Dissimilarity of one line of the picture with one of the model.
double unlike(const BodyLines& a, std::size_t lineOfA, const BodyLines& b, std::size_t lineOfB,
              double sign = 1)
{
    return kLines[lineOfB].weight * std::min(kMostUnlike, (sign * a[lineOfA] - b[lineOfB]).squaredNorm());
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
    return rest + std::min(legs, swappedLegs + kExchangePrice);
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
    return u.legs <= kExchangePrice ? u.tolerant()
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
    constexpr std::size_t some = 10; // of the frames are enough to tell where and how tall the body stands
    Eigen::AlignedBox3d ground;
    for (std::size_t i = 0; i < standsAs.frames.size(); i += some)
        ground.extend(floorPoint(standsAs.frames[i]));
    m_camera = ground.center() + distance * forwardOf(azimuth);
    std::vector<double> extents;
    for (double t = 0; t <= model.duration(); t += some / model.framesPerSecond) {
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
    constexpr double nearest = 1; // m: closer than that nobody films a whole body
    constexpr double tilt = kCameraTilt * kRadPerDeg;
    Vector3d towards = m_camera - floorPoint(m_standsAs.at(modelTime));
    const double away = std::max(nearest, towards.norm());
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
    constexpr double height = 1.68, shown = 0.88; // m; the share between ankles and ears
    return kUsualFocalShare * std::max(track.width, track.height) * height * shown / standingSize;
}

} // namespace jl
