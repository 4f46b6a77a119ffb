#include "measure/calibration.h"
#include "base/angles.h"
#include "measure/camera_fit.h"
#include "measure/least_squares.h"
#include <Eigen/Dense>
#include <algorithm>

namespace jl
{

CalibratedCamera calibrate(std::span<const BodyFrame> frames, int width, int height,
                           const BodyPoints& standing, double azimuthGuess, const PersonProfile& profile,
                           const LandmarkOffsets& offsets)
{
    using enum CameraFit::Unknown;
    const double h = profile.heightOrUsual();
    const CameraFit fit(frames, width, height, offsets.toNetwork(standing, h), azimuthGuess, h);
    // A single standing body tells a longer lens from a greater distance too badly to try.
    const auto withUsualLens = [](const Eigen::VectorXd& x) {
        Eigen::VectorXd all(static_cast<int>(UnknownCount));
        all << x, 0;
        return all;
    };
    const auto found = leastSquares([&](const Eigen::VectorXd& x) { return fit.residuals(withUsualLens(x)); },
                                    fit.start().head(static_cast<int>(LogFocal)));
    const Eigen::MatrixXd covariance = found.normal.inverse();
    CalibratedCamera out;
    out.camera = fit.camera(withUsualLens(found.unknowns));
    out.azimuth = wrapDeg(found.unknowns[Azimuth]);
    // The anchors' errors are shared between points, so the formal spread is too small by about a half.
    const auto spread = [&](CameraFit::Unknown u, double least, double most) {
        return std::clamp(1.5 * std::sqrt(covariance(u, u)), least, most);
    };
    out.azimuthSpread = spread(Azimuth, 1.5, 10.0);
    out.elevationSpread = spread(Elevation, 0.7, 6.0);
    out.rollSpread = spread(Roll, 0.2, 1.5);
    out.scaleSpread = std::hypot(profile.heightSpread() / h, 0.012);
    out.residual = fit.metres(found.residuals);
    return out;
}

} // namespace jl
