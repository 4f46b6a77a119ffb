#include "measure/calibration.h"
#include "base/angles.h"
#include <Eigen/Dense>
#include <algorithm>

namespace jl
{
namespace
{

using Eigen::Vector2d;
using Eigen::Vector3d;
using Eigen::VectorXd;

/// The points that hold still and are well defined on a standing body, with the spread (m) between bodies and
/// in the network's reading; arms hang as they like and are left out.
struct Anchor {
    Landmark landmark;
    double spread;
};
constexpr Anchor kAnchors[] = {
    {Landmark::LeftEar, 0.025},       {Landmark::RightEar, 0.025},  {Landmark::LeftShoulder, 0.025},
    {Landmark::RightShoulder, 0.025}, {Landmark::LeftHip, 0.030},   {Landmark::RightHip, 0.030},
    {Landmark::LeftKnee, 0.035},      {Landmark::RightKnee, 0.035}, {Landmark::LeftAnkle, 0.025},
    {Landmark::RightAnkle, 0.025},    {Landmark::LeftHeel, 0.025},  {Landmark::RightHeel, 0.025},
    {Landmark::LeftToe, 0.035},       {Landmark::RightToe, 0.035},
};
constexpr int kAnchorCount = static_cast<int>(std::size(kAnchors));

/// Unknowns: azimuth and elevation of the camera (deg), log distance, roll (deg), and where the camera looks:
/// offset to the side and height (m).
enum Unknown { Azimuth, Elevation, LogDistance, Roll, Aside, LookHeight, UnknownCount };

struct Fit {
    const std::array<Vector2d, kLandmarkCount>& picture;
    const BodyPoints& body;
    Camera lens;
    double height;

    Camera cameraFor(const VectorXd& x) const
    {
        const Vector3d target = rightOf(x[Azimuth]) * x[Aside] + Vector3d(0, 0, x[LookHeight]);
        Camera c = Camera::looking(target, x[Azimuth], x[Elevation], std::exp(x[LogDistance]), x[Roll]);
        c.focal = lens.focal;
        c.centre = lens.centre;
        return c;
    }

    VectorXd residuals(const VectorXd& x, double azimuthGuess) const
    {
        const Camera c = cameraFor(x);
        VectorXd r(2 * kAnchorCount + 4);
        const double pixelsPerMetre = lens.focal / std::exp(x[LogDistance]);
        for (int i = 0; i < kAnchorCount; ++i) {
            const std::size_t k = index(kAnchors[i].landmark);
            Vector2d e = (c.project(body[k]) - picture[k]) / (pixelsPerMetre * kAnchors[i].spread);
            // A wrong point counts less the further off it is (pseudo-Huber).
            const double n = e.norm();
            if (n > 1e-9) e *= std::sqrt(2 * (std::sqrt(1 + n * n / 9) - 1)) * 3 / n;
            r.segment<2>(2 * i) = e;
        }
        const double cameraHeight = c.position.z();
        r[2 * kAnchorCount] = (cameraHeight - 1.25) / 0.40;
        r[2 * kAnchorCount + 1] = x[Roll] / 1.0;
        r[2 * kAnchorCount + 2] = wrapDeg(x[Azimuth] - azimuthGuess) / 8.0;
        r[2 * kAnchorCount + 3] = x[Elevation] / 25.0;
        return r;
    }
};

} // namespace

CalibratedCamera calibrate(std::span<const BodyFrame> frames, int width, int height,
                           const BodyPoints& standing, double azimuthGuess, const PersonProfile& profile,
                           const LandmarkOffsets& offsets)
{
    // The median picture of the standing frames.
    std::array<Vector2d, kLandmarkCount> picture{};
    std::vector<double> xs, ys;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        xs.clear();
        ys.clear();
        for (const BodyFrame& f : frames) {
            if (!f.seen) continue;
            xs.push_back(f.point[k].x());
            ys.push_back(f.point[k].y());
        }
        if (xs.empty()) continue;
        std::nth_element(xs.begin(), xs.begin() + static_cast<std::ptrdiff_t>(xs.size() / 2), xs.end());
        std::nth_element(ys.begin(), ys.begin() + static_cast<std::ptrdiff_t>(ys.size() / 2), ys.end());
        picture[k] = {xs[xs.size() / 2], ys[ys.size() / 2]};
    }
    const double h = profile.heightOrUsual();
    Camera lens;
    lens.focal = kUsualFocalShare * std::max(width, height);
    lens.centre = {0.5 * width, 0.5 * height};
    const BodyPoints body = offsets.toNetwork(standing, h);
    const Fit fit{picture, body, lens, h};

    using enum Landmark;
    const double tall = (0.5 * (picture[index(LeftAnkle)] + picture[index(RightAnkle)]) -
                         0.5 * (picture[index(LeftEar)] + picture[index(RightEar)]))
                            .norm();
    VectorXd x(static_cast<int>(UnknownCount));
    x << azimuthGuess, 4, std::log(lens.focal * 0.86 * h / std::max(tall, 10.0)), 0, 0, 0.5 * h;
    double damping = 1e-2;
    VectorXd r = fit.residuals(x, azimuthGuess);
    Eigen::MatrixXd normal;
    for (int step = 0; step < 60; ++step) {
        Eigen::MatrixXd jacobian(r.size(), x.size());
        for (int i = 0; i < x.size(); ++i) {
            VectorXd y = x;
            y[i] += 1e-4;
            jacobian.col(i) = (fit.residuals(y, azimuthGuess) - r) / 1e-4;
        }
        normal = jacobian.transpose() * jacobian;
        Eigen::MatrixXd damped = normal;
        damped.diagonal() *= 1 + damping;
        const VectorXd better = x - damped.ldlt().solve(jacobian.transpose() * r);
        const VectorXd rBetter = fit.residuals(better, azimuthGuess);
        if (rBetter.squaredNorm() < r.squaredNorm()) {
            const double gain = r.squaredNorm() - rBetter.squaredNorm();
            x = better;
            r = rBetter;
            damping = std::max(1e-7, damping / 4);
            if (gain < 1e-7) break;
        } else {
            damping *= 6;
            if (damping > 1e6) break;
        }
    }
    const Eigen::MatrixXd covariance = normal.inverse();
    CalibratedCamera out;
    out.camera = fit.cameraFor(x);
    out.azimuth = wrapDeg(x[Azimuth]);
    // The anchors' errors are shared between points, so the formal spread is too small by about a half.
    out.azimuthSpread = std::clamp(1.5 * std::sqrt(covariance(Azimuth, Azimuth)), 1.5, 10.0);
    out.elevationSpread = std::clamp(1.5 * std::sqrt(covariance(Elevation, Elevation)), 0.7, 6.0);
    out.rollSpread = std::clamp(1.5 * std::sqrt(covariance(Roll, Roll)), 0.2, 1.5);
    out.scaleSpread = std::hypot(profile.heightSpread() / h, 0.012);
    double sum = 0;
    for (int i = 0; i < kAnchorCount; ++i)
        sum += (r.segment<2>(2 * i) * kAnchors[i].spread).squaredNorm();
    out.residual = std::sqrt(sum / kAnchorCount);
    return out;
}

} // namespace jl
