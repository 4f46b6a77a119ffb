#include "camera/calibration.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include "camera/camera_fit.h"
#include "camera/least_squares.h"
#include "camera/standing_body.h"
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

/// Options of hints about the room.
/// Chosen on: one made-up clip with lengths on the floor (11 values); tape and wall are estimates of hand
/// measurement.
struct CalibrationOptions {
    /// Standard deviation of a length measured on the floor. x0.5 and x2: none.
    Metres tapeSpread = 0.010;
    /// Standard deviation of a mark in the picture, of its longer side. x0.5 and x2: none.
    Share markSpread = 0.0015;
    /// Standard deviation of the direction of the wall against the performer's. x0.5 and x2: none.
    Degrees wallSpread = 1.0;
    /// Shortest person that lengths on the floor may imply. x0.5 and x2: none.
    Metres leastHeight = 1.2;
    /// Tallest person that lengths on the floor may imply. x0.5 and x2: none.
    Metres mostHeight = 2.2;
    /// Squared standard deviations that a hint may add before it is left out; correct hints add less than 4.
    /// x0.5 and x2: none.
    Ratio mostDisagreement = 9;
    /// Roll below which a camera counts as level. x0.5 and x2: none.
    Degrees usualRoll = 1.5;
};
constexpr CalibrationOptions kOptions;

Vector3d onFloor(const Camera& camera, const Vector2d& pixel)
{
    return camera.onPlane(pixel, Vector3d::UnitZ(), 0);
}

/// How a camera agrees with the hints about the room, in standard deviations, where the person is `scale`
/// times as tall as was assumed. `longer` is the picture's longer side, pixels.
VectorXd hintResiduals(const Camera& camera, double scale, const CalibrationHints& hints, double longer)
{
    VectorXd r(static_cast<Eigen::Index>(hints.spans.size()) + (hints.wall ? 1 : 0));
    Eigen::Index i = 0;
    for (const FloorSpan& s : hints.spans) {
        const double seen = scale * (onFloor(camera, s.to) - onFloor(camera, s.from)).norm();
        // A length along the line of sight is short in the picture, so that its marks are less exact.
        const double marks = kOptions.markSpread * longer * s.length / std::max((s.to - s.from).norm(), 1.0);
        r[i++] = robust<Eigen::Matrix<double, 1, 1>>(
            Eigen::Matrix<double, 1, 1>((seen - s.length) / std::hypot(kOptions.tapeSpread, marks)))[0];
    }
    if (hints.wall) {
        const Vector3d along = onFloor(camera, (*hints.wall)[1]) - onFloor(camera, (*hints.wall)[0]);
        // It runs from left to right of the performer, whichever way it was drawn.
        r[i] = std::remainder(JointGeometry::heading(along) - 90, 180) / kOptions.wallSpread;
    }
    return r;
}

/// Where a camera fit with hints ended. The unknowns are those of CameraFit and the log of how much taller
/// than assumed the person is; the fit counts in metres of the assumed height, so that all is as much larger.
struct Placement {
    static constexpr int kLogScale = CameraFit::UnknownCount;
    VectorXd unknowns;
    double body, room;          ///< squared standard deviations of the standing body and of the hints
    Eigen::Index roomCount;     ///< how many of the latter there are
    Eigen::MatrixXd covariance; ///< of those unknowns that were free
    double metres;              ///< rms distance of the standing points

    double scale() const { return std::exp(unknowns[kLogScale]); }
};

Placement place(const CameraFit& fit, const CalibrationHints& hints, double longer, double heightSpread)
{
    using enum CameraFit::Unknown;
    constexpr int logScale = Placement::kLogScale;
    const auto all = [&](const VectorXd& x) {
        VectorXd unknowns = VectorXd::Zero(logScale + 1);
        unknowns.head(x.size()) = x;
        return unknowns;
    };
    const auto residuals = [&](const VectorXd& x) {
        const VectorXd unknowns = all(x), body = fit.residuals(unknowns),
                       room =
                           hintResiduals(fit.camera(unknowns), std::exp(unknowns[logScale]), hints, longer);
        VectorXd r(body.size() + room.size() + 1);
        r << body, room, unknowns[logScale] / heightSpread;
        return r;
    };
    // From a single standing body neither the lens nor its own height is observable; lengths
    // on the floor make both observable.
    const int count = hints.spans.empty() ? static_cast<int>(LogFocal) : logScale + 1;
    const auto found = leastSquares(residuals, all(fit.start()).head(count));
    const Eigen::Index rooms = found.residuals.size() - CameraFit::kResidualCount - 1;
    return {all(found.unknowns),
            found.residuals.head(CameraFit::kResidualCount).squaredNorm(),
            found.residuals.segment(CameraFit::kResidualCount, rooms).squaredNorm(),
            rooms,
            found.normal.inverse(),
            fit.metres(found.residuals)};
}

/// Whether hints fit the body that stands there: with them hardly more is left unexplained than without.
bool hold(const Placement& hinted, const Placement& alone, const PersonProfile& profile)
{
    const double tall = profile.heightOrUsual() * hinted.scale();
    return hinted.body - alone.body + hinted.room - static_cast<double>(hinted.roomCount) <
               kOptions.mostDisagreement &&
           (profile.height || (tall > kOptions.leastHeight && tall < kOptions.mostHeight));
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

std::optional<CameraRoll> askewBy(const Track& track)
{
    const bool measured = track.roll && track.roll->spread > 0;
    return measured && std::abs(track.roll->deg) - track.roll->spread > kOptions.usualRoll ? track.roll
                                                                                           : std::nullopt;
}

double azimuthFrom(const Camera& camera, const BodyPoints& body)
{
    const Eigen::Vector3d towards =
        camera.position - 0.5 * (body[index(Landmark::LeftHip)] + body[index(Landmark::RightHip)]);
    return JointGeometry::heading(towards);
}

double CalibratedCamera::azimuthFrom(const BodyPoints& body) const
{
    return jl::azimuthFrom(camera, body);
}

std::string hintsLeftOut(const CalibratedCamera& camera)
{
    if (camera.floorHolds && camera.wallHolds) return {};
    const std::string what = camera.wallHolds ? "the lengths told of the floor do"
                             : camera.floorHolds
                                 ? "the foot of the wall does"
                                 : "the lengths told of the floor and the foot of the wall do";
    return "What was told of the room was left out: " + what +
           " not fit the body that stands there. Look at the marks and lengths again.";
}

CalibratedCamera calibrate(const StandingPicture& picture, const BodyPoints& standing, double azimuthGuess,
                           const PersonProfile& profile, const LandmarkOffsets& offsets,
                           const CalibrationHints& hints)
{
    const double h = profile.heightOrUsual(), heightSpread = profile.heightSpread() / h;
    const auto fitTo = [&](const BodyPoints& body) {
        return CameraFit(picture, offsets.toNetwork(body, h), azimuthGuess, h, hints.lens(), hints.roll);
    };
    const CameraFit fit = fitTo(standingAsSeen(standing, [&](const BodyPoints& body) {
        return place(fitTo(body), {}, picture.longerSide(), heightSpread).metres;
    }));
    const auto placed = [&](const CalibrationHints& given) {
        return place(fit, given, picture.longerSide(), heightSpread);
    };
    CalibrationHints used = hints;
    used.spans.clear();
    used.wall.reset();
    const Placement alone = placed(used);
    CalibratedCamera out;
    for (const bool floor : {true, false}) {
        if (floor ? hints.spans.empty() : !hints.wall) continue;
        CalibrationHints one = hints;
        if (floor)
            one.wall.reset();
        else
            one.spans.clear();
        if (!hold(placed(one), alone, profile))
            (floor ? out.floorHolds : out.wallHolds) = false;
        else if (floor)
            used.spans = hints.spans;
        else
            used.wall = hints.wall;
    }
    const bool floorKnown = !used.spans.empty();
    const Placement found = floorKnown || used.wall ? placed(used) : alone;
    out.camera = fit.camera(found.unknowns);
    out.camera.position *= found.scale();
    out.height = h * found.scale();
    out.azimuth = JointGeometry::heading(out.camera.position);
    // The anchors' errors are shared between points, so the formal spread is too small by about a half.
    const auto spread = [&](int u, double least, double most) {
        return std::clamp(1.5 * std::sqrt(found.covariance(u, u)), least, most);
    };
    out.azimuthSpread = spread(CameraFit::Azimuth, used.wall ? 0.7 : 1.5, 10.0);
    out.elevationSpread = spread(CameraFit::Elevation, 0.7, 6.0);
    out.rollSpread = spread(CameraFit::Roll, 0.2, 1.5);
    out.scaleSpread =
        std::hypot(floorKnown ? spread(Placement::kLogScale, 0, heightSpread) : heightSpread, 0.012);
    out.residual = found.metres;
    return out;
}

} // namespace jl
