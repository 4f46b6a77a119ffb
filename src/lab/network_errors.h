#pragma once
#include "base/result.h"
#include "base/units.h"
#include "body/track.h"
#include <Eigen/Core>
#include <filesystem>

namespace jl
{

/// Errors of all points of a picture, x then y of each landmark in its order, in shares of the body's height.
using PointErrors = Eigen::Vector<double, 2 * kLandmarkCount>;

/// Those of the same body seen in a mirror: left and right change places, and x its sign.
PointErrors mirrored(const PointErrors& errors);

/// From where a body is seen, by its points in space (BodyFrame::metric, which must hold the true ones): deg,
/// 0 from the front, 90 from its right side, 180 from behind, -90 from its left.
double viewAngle(const BodyFrame& exact);

/// How much a body stands with straight legs under the hips and arms that hang: 1 where it does, 0 in all
/// other postures of a form, by the points in space (BodyFrame::metric, of a camera that is held level).
double standingShare(const BodyFrame& exact);

/// How the networks err at key moments, as found in rendered clips (`validate --fit-errors`) and kept in
/// data/measure/network-errors.json: how points spread about what is usual from that view, against points
/// placed by the table of offsets, each point together with all others. What is usual is not kept: it hangs
/// on the pose more than on the view, and readings mostly take it off. Who stands is read otherwise than who
/// moves: the feet are placed alike, and the cameras with them. Errors of a left side are those of a right
/// side in a mirror.
class NetworkErrors
{
public:
    struct View {
        /// The symmetric root of the covariance: times independent unit errors, it gives errors that spread
        /// and go together as the networks' do.
        Eigen::Matrix<double, 2 * kLandmarkCount, 2 * kLandmarkCount> root =
            Eigen::Matrix<double, 2 * kLandmarkCount, 2 * kLandmarkCount>::Zero();
        /// Share of moments at which the left and the right arm are seen, by the networks' own opinion; where
        /// they are not, their errors are those of moments at which they are.
        std::array<Share, 2> armSeen{1, 1};
    };
    static constexpr Degrees kStep = 30; ///< deg between two views
    static constexpr std::size_t kViews = 7;
    using Views = std::array<View, kViews>; ///< from the front over the right side to behind
    struct Poses {
        Views moving, standing;
    };

    /// No errors at all.
    NetworkErrors() = default;
    /// `steady` of each landmark: the share of the variance that stays over a clip.
    NetworkErrors(Poses poses, std::array<double, kLandmarkCount> steady);
    static Result<NetworkErrors> load(const std::filesystem::path& folder);
    std::string json() const;

    /// Errors from a view (viewAngle()) of a body that stands or does not (standingShare()), from unit errors
    /// of its own left and right. Small changes of the angle and the share change them little.
    PointErrors spread(double angle, double standing, const PointErrors& unit) const;
    double armSeen(double angle, double standing, Side side) const;
    double steady(Landmark l) const { return m_steady[index(l)]; }

private:
    Poses m_poses;
    std::array<double, kLandmarkCount> m_steady{};
};

} // namespace jl
