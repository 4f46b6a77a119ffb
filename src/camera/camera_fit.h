#pragma once
#include "camera/calibration.h"
#include <array>

namespace jl
{

/// The unknowns of a camera that films a standing body, and how well they explain its picture: the common
/// ground of calibrating one camera and two.
class CameraFit
{
public:
    /// Azimuth and elevation (deg), log of the distance, roll (deg), offset of the point looked at to the
    /// side and its height (m), log of the focal length against the assumed one.
    enum Unknown { Azimuth, Elevation, LogDistance, Roll, Aside, LookHeight, LogFocal, UnknownCount };
    static constexpr int kAnchorCount = 14;
    static constexpr int kResidualCount = 2 * kAnchorCount + 5;

    /// The median picture of a standing body against that body in space, network conventions; `roll` where it
    /// is known, else the camera is taken to be about level.
    CameraFit(const StandingPicture& standing, const NetworkPoints& body, double azimuthGuess,
              double personHeight, const LensPrior& lens = {}, std::optional<CameraRoll> roll = {});

    Eigen::VectorXd start() const;
    Camera camera(const Eigen::VectorXd& unknowns) const;
    /// Of the standing picture and of what is expected of any camera, in standard deviations.
    Eigen::VectorXd residuals(const Eigen::VectorXd& unknowns) const;
    /// Rms distance of the standing points, m at the body.
    double metres(const Eigen::VectorXd& residuals) const;

private:
    std::array<Eigen::Vector2d, kLandmarkCount> m_picture{};
    NetworkPoints m_body;
    Camera m_lens;
    double m_azimuthGuess, m_height, m_lensSpread;
    CameraRoll m_roll;
};

} // namespace jl
