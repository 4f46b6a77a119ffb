#include "measure/calibration.h"
#include "base/angles.h"
#include "measure/camera_fit.h"
#include "measure/joint_reader.h"
#include "measure/least_squares.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace jl
{

namespace
{

using Eigen::Vector2d;
using Eigen::Vector3d;
using Eigen::VectorXd;

constexpr double kLengthSpread = 0.015; ///< m, of a length measured on the floor and its ends in the picture
constexpr double kWallSpread = 1.0;     ///< deg

Vector3d onFloor(const Camera& camera, const Vector2d& pixel)
{
    return camera.onPlane(pixel, Vector3d::UnitZ(), 0);
}

/// How a camera agrees with the hints about the room, in standard deviations.
VectorXd hintResiduals(const Camera& camera, const CalibrationHints& hints)
{
    VectorXd r(static_cast<Eigen::Index>(hints.spans.size()) + (hints.wall ? 1 : 0));
    Eigen::Index i = 0;
    for (const FloorSpan& s : hints.spans) {
        const double seen = (onFloor(camera, s.to) - onFloor(camera, s.from)).norm();
        r[i++] = robust<Eigen::Matrix<double, 1, 1>>(
            Eigen::Matrix<double, 1, 1>((seen - s.length) / kLengthSpread))[0];
    }
    if (hints.wall) {
        const Vector3d along = onFloor(camera, (*hints.wall)[1]) - onFloor(camera, (*hints.wall)[0]);
        // It runs from left to right of the performer, whichever way it was drawn.
        r[i] = std::remainder(JointReader::heading(along) - 90, 180) / kWallSpread;
    }
    return r;
}

} // namespace

void CalibrationHints::addSheet(const std::array<Eigen::Vector2d, 4>& c, double first, double second)
{
    for (std::size_t i = 0; i < 4; ++i)
        spans.push_back({c[i], c[(i + 1) % 4], i % 2 ? second : first});
    const double diagonal = std::hypot(first, second);
    spans.push_back({c[0], c[2], diagonal});
    spans.push_back({c[1], c[3], diagonal});
}

double heightRatio(const Camera& camera, const CalibrationHints& hints)
{
    if (hints.spans.empty()) return 1;
    double known = 0, seen = 0;
    for (const FloorSpan& s : hints.spans) {
        known += s.length;
        seen += (onFloor(camera, s.to) - onFloor(camera, s.from)).norm();
    }
    return known / seen;
}

double azimuthFrom(const Camera& camera, const BodyPoints& body)
{
    const Eigen::Vector3d towards =
        camera.position - 0.5 * (body[index(Landmark::LeftHip)] + body[index(Landmark::RightHip)]);
    return JointReader::heading(towards);
}

double CalibratedCamera::azimuthFrom(const BodyPoints& body) const
{
    return jl::azimuthFrom(camera, body);
}

CalibratedCamera calibrate(std::span<const BodyFrame> frames, int width, int height,
                           const BodyPoints& standing, double azimuthGuess, const PersonProfile& profile,
                           const LandmarkOffsets& offsets, const CalibrationHints& hints)
{
    using enum CameraFit::Unknown;
    const double h = profile.heightOrUsual();
    const double focalShare =
        hints.fieldOfView ? 0.5 / std::tan(0.5 * *hints.fieldOfView * kRadPerDeg) : kUsualFocalShare;
    const CameraFit fit(frames, width, height, offsets.toNetwork(standing, h), azimuthGuess, h, focalShare);
    // A single standing body tells a longer lens from a greater distance too badly to try; lengths on the
    // floor tell it.
    const bool freeLens = !hints.spans.empty();
    const auto all = [&](const VectorXd& x) {
        VectorXd unknowns(static_cast<int>(UnknownCount));
        if (freeLens)
            unknowns = x;
        else
            unknowns << x, 0;
        return unknowns;
    };
    const auto residuals = [&](const VectorXd& x) {
        const VectorXd unknowns = all(x), body = fit.residuals(unknowns),
                       room = hintResiduals(fit.camera(unknowns), hints);
        VectorXd r(body.size() + room.size() + 1);
        r << body, room, hints.fieldOfView ? unknowns[LogFocal] / hints.fieldSpread : 0;
        return r;
    };
    const int count = freeLens ? static_cast<int>(UnknownCount) : static_cast<int>(LogFocal);
    const auto found = leastSquares(residuals, fit.start().head(count));
    const Eigen::MatrixXd covariance = found.normal.inverse();
    CalibratedCamera out;
    out.camera = fit.camera(all(found.unknowns));
    out.azimuth = JointReader::heading(out.camera.position);
    // The anchors' errors are shared between points, so the formal spread is too small by about a half.
    const auto spread = [&](CameraFit::Unknown u, double least, double most) {
        return std::clamp(1.5 * std::sqrt(covariance(u, u)), least, most);
    };
    out.azimuthSpread = spread(Azimuth, hints.wall ? 0.7 : 1.5, 10.0);
    out.elevationSpread = spread(Elevation, 0.7, 6.0);
    out.rollSpread = spread(Roll, 0.2, 1.5);
    out.scaleSpread = std::hypot(profile.heightSpread() / h, 0.012);
    out.residual = fit.metres(found.residuals);
    return out;
}

} // namespace jl
