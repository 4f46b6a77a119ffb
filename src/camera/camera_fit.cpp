#include "camera/camera_fit.h"
#include "base/angles.h"
#include "camera/least_squares.h"
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;
using Eigen::VectorXd;

namespace
{

/// The points that hold still and are well defined on a standing body, with the spread (m) between bodies and
/// in the network's reading; arms hang as they like and are left out.
struct Anchor {
    Landmark landmark;
    double spread;
};
constexpr Anchor kAnchors[CameraFit::kAnchorCount] = {
    {Landmark::LeftEar, 0.025},       {Landmark::RightEar, 0.025},  {Landmark::LeftShoulder, 0.025},
    {Landmark::RightShoulder, 0.025}, {Landmark::LeftHip, 0.030},   {Landmark::RightHip, 0.030},
    {Landmark::LeftKnee, 0.035},      {Landmark::RightKnee, 0.035}, {Landmark::LeftAnkle, 0.025},
    {Landmark::RightAnkle, 0.025},    {Landmark::LeftHeel, 0.025},  {Landmark::RightHeel, 0.025},
    {Landmark::LeftToe, 0.035},       {Landmark::RightToe, 0.035},
};

/// Options of the fit of a camera to a standing body: what is expected of any camera, as normal priors.
/// Source: cameras on stands and shelves as people film classes; the anchors' spreads above were chosen on
/// the quick set (validate --quick).
struct CameraFitOptions {
    /// Standard deviation of the roll of a camera that stands level. x0.5: err +2 %, u -0.5 %; x2: none.
    Degrees levelSpread = 1.0;
    /// Usual height of a camera. x0.5: err -1 %, u -0.6 %; x2: err +10 %, u +3 %, 2u -1.3.
    Metres usualHeight = 1.25;
    /// Standard deviation of that height. x0.5: err +1 %, u -0.6 %; x2: none.
    Metres heightSpread = 0.40;
    /// Standard deviation of the azimuth against the line-up's. x0.5: err +2 %, u -0.8 %; x2: err -0.8 %.
    Degrees azimuthSpread = 8.0;
    /// Standard deviation of the elevation against level. x0.5: none; x2: err +0.7 %.
    Degrees elevationSpread = 25.0;
};
constexpr CameraFitOptions kOptions;

} // namespace

CameraFit::CameraFit(const StandingPicture& standing, const NetworkPoints& body, double azimuthGuess,
                     double personHeight, const LensPrior& lens, std::optional<CameraRoll> roll)
    : m_body(body), m_azimuthGuess(azimuthGuess), m_height(personHeight), m_lensSpread(lens.spread),
      m_roll(roll.value_or(CameraRoll{0, kOptions.levelSpread}))
{
    m_lens.focal = lens.focalShare * standing.longerSide();
    m_lens.centre = {0.5 * standing.width, 0.5 * standing.height};
    std::vector<double> xs, ys;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        xs.clear();
        ys.clear();
        for (const BodyFrame& f : standing.frames) {
            if (!f.seen) continue;
            xs.push_back(f.point[k].x());
            ys.push_back(f.point[k].y());
        }
        if (xs.empty()) continue;
        std::nth_element(xs.begin(), xs.begin() + static_cast<std::ptrdiff_t>(xs.size() / 2), xs.end());
        std::nth_element(ys.begin(), ys.begin() + static_cast<std::ptrdiff_t>(ys.size() / 2), ys.end());
        m_picture[k] = {xs[xs.size() / 2], ys[ys.size() / 2]};
    }
}

VectorXd CameraFit::start() const
{
    using enum Landmark;
    const auto at = [&](Landmark l) { return m_picture[index(l)]; };
    const double tall = (0.5 * (at(LeftAnkle) + at(RightAnkle)) - 0.5 * (at(LeftEar) + at(RightEar))).norm();
    VectorXd x(static_cast<int>(UnknownCount));
    x << m_azimuthGuess, 4, std::log(m_lens.focal * 0.86 * m_height / std::max(tall, 10.0)), 0, 0,
        0.5 * m_height, 0;
    return x;
}

Camera CameraFit::camera(const VectorXd& x) const
{
    const Vector3d target = rightOf(x[Azimuth]) * x[Aside] + Vector3d(0, 0, x[LookHeight]);
    Camera c = Camera::looking(target, x[Azimuth], x[Elevation], std::exp(x[LogDistance]), x[Roll]);
    c.focal = m_lens.focal * std::exp(x[LogFocal]);
    c.centre = m_lens.centre;
    return c;
}

VectorXd CameraFit::residuals(const VectorXd& x) const
{
    const Camera c = camera(x);
    VectorXd r(kResidualCount);
    const double pixelsPerMetre = c.focal / std::exp(x[LogDistance]);
    for (int i = 0; i < kAnchorCount; ++i) {
        const std::size_t k = index(kAnchors[i].landmark);
        r.segment<2>(2 * i) =
            robust<Vector2d>((c.project(m_body[k]) - m_picture[k]) / (pixelsPerMetre * kAnchors[i].spread));
    }
    r.tail<5>() << (c.position.z() - kOptions.usualHeight) / kOptions.heightSpread,
        (x[Roll] - m_roll.deg) / m_roll.spread,
        wrapDeg(azimuthFrom(c, m_body.at) - m_azimuthGuess) / kOptions.azimuthSpread,
        x[Elevation] / kOptions.elevationSpread, x[LogFocal] / m_lensSpread;
    return r;
}

double CameraFit::metres(const VectorXd& residuals) const
{
    double sum = 0;
    for (int i = 0; i < kAnchorCount; ++i)
        sum += (residuals.segment<2>(2 * i) * kAnchors[i].spread).squaredNorm();
    return std::sqrt(sum / kAnchorCount);
}

} // namespace jl
