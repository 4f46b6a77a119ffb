#include "moment/pair_smoother.h"
#include "base/units.h"
#include <algorithm>
#include <ceres/ceres.h>

namespace jl
{

namespace
{

using Eigen::Vector2d;
using Eigen::Vector3d;

/// Standard deviations of the smoother of two views, for a body of 1.70 m.
/// Chosen on: 28 pairs of seed 20260.
struct PairSmootherOptions {
    /// Of a point across its line of sight. x0.5: err +2 %; x2: none.
    Metres pointSpread = 0.010;
    /// The same for elbows and wrists. x0.5: none; x2: err +0.7 %.
    Metres armSpread = 0.015;
    /// Of a bone's length. x0.5: err +1 %; x2: none.
    Metres boneSpread = 0.006;
    /// Of a point from the straight line between its neighbours in time. x0.5 and x2: none.
    Metres bendSpread = 0.010;
    /// Of a standing foot from one moment to the next. x0.5: none; x2: err +0.7 %.
    Metres footSpread = 0.004;
    /// Up to which a foot may stand. x0.5 and x2: none.
    MetresPerSecond standingSpeed = 0.15;
    /// Up to which a foot may stand. x0.5: err +0.7 %; x2: none.
    Metres standingHeight = 0.06;
    /// Standard deviations from which the loss grows less than quadratically. x0.5: err +2 %; x2: none.
    Ratio tolerated = 2;
};
constexpr PairSmootherOptions kOptions;

constexpr std::size_t kFirstPoint = index(Landmark::LeftShoulder); ///< the face is left as it is

/// Distance of a line of sight from a point, in standard deviations, across the camera's axis.
struct OffSight {
    Camera camera;
    Vector2d pixel;
    Vector3d offset; ///< from the anatomical point to the network's
    double spread;

    template <class T>
    bool operator()(const T* point, T* residual) const
    {
        const Eigen::Matrix<T, 3, 1> room =
            Eigen::Map<const Eigen::Matrix<T, 3, 1>>(point) + (offset - camera.position).cast<T>();
        const Eigen::Matrix<T, 3, 1> seen = camera.rotation.cast<T>() * room;
        const T size = T(camera.focal * spread);
        residual[0] = (T(camera.focal) * seen.x() - T(pixel.x() - camera.centre.x()) * seen.z()) / size;
        residual[1] = (T(camera.focal) * seen.y() - T(pixel.y() - camera.centre.y()) * seen.z()) / size;
        return true;
    }
};

struct OffLength {
    double length, spread;

    template <class T>
    bool operator()(const T* a, const T* b, T* residual) const
    {
        T squares(1e-12); // keeps the root smooth
        for (int i = 0; i < 3; ++i)
            squares += (a[i] - b[i]) * (a[i] - b[i]);
        residual[0] = (sqrt(squares) - T(length)) / T(spread);
        return true;
    }
};

struct OffStraight {
    double spread;

    template <class T>
    bool operator()(const T* before, const T* now, const T* after, T* residual) const
    {
        for (int i = 0; i < 3; ++i)
            residual[i] = (before[i] - T(2) * now[i] + after[i]) / T(spread);
        return true;
    }
};

struct Slid {
    double spread;

    template <class T>
    bool operator()(const T* before, const T* now, T* residual) const
    {
        for (int i = 0; i < 3; ++i)
            residual[i] = (now[i] - before[i]) / T(spread);
        return true;
    }
};

/// A window's points and what holds them together.
class WindowProblem
{
public:
    WindowProblem(const TwoViewMeasurer& measurer, const PairWindow& window, const SteadyBones& bones,
                  double height)
        : m_size(height / 1.70)
    {
        for (std::size_t k = 0; k < window.first.size(); ++k)
            m_bodies.push_back(measurer.place(window.first[k], window.second[k]).points);
        for (std::size_t k = 0; k < m_bodies.size(); ++k) {
            addSights(measurer, window.first[k], window.second[k], m_bodies[k]);
            addBones(bones, m_bodies[k]);
        }
        addMovement(window.step);
    }

    std::optional<BodyPoints> middle()
    {
        ceres::Solver::Options options;
        options.linear_solver_type = ceres::SPARSE_NORMAL_CHOLESKY;
        options.max_num_iterations = 25;
        options.function_tolerance = 1e-4; // of the cost
        options.logging_type = ceres::SILENT;
        ceres::Solver::Summary summary;
        ceres::Solve(options, &m_problem, &summary);
        if (!summary.IsSolutionUsable()) return {};
        return m_bodies[m_bodies.size() / 2];
    }

private:
    /// Errors count less and less beyond what is tolerated.
    static ceres::LossFunction* tolerant() { return new ceres::CauchyLoss(kOptions.tolerated); }

    void addSights(const TwoViewMeasurer& measurer, const BodyFrame& first, const BodyFrame& second,
                   BodyPoints& body)
    {
        const TwoCameras& cameras = measurer.cameras();
        for (std::size_t i = kFirstPoint; i < kLandmarkCount; ++i) {
            const bool arm = i >= index(Landmark::LeftElbow) && i <= index(Landmark::RightThumb);
            const double spread = (arm ? kOptions.armSpread : kOptions.pointSpread) * m_size;
            const Vector3d offset =
                intersectRays(cameras.first, first.point[i], cameras.second, second.point[i]).point - body[i];
            const auto add = [&](const Camera& camera, const BodyFrame& frame) {
                // What somebody put in place is no error of a network.
                m_problem.AddResidualBlock(new ceres::AutoDiffCostFunction<OffSight, 2, 3>(
                                               new OffSight{camera, frame.point[i], offset, spread}),
                                           frame.placed[i] > 0 ? nullptr : tolerant(), body[i].data());
            };
            add(cameras.first, first);
            add(cameras.second, second);
        }
    }

    void addBones(const SteadyBones& bones, BodyPoints& body)
    {
        for (std::size_t b = 0; b < SteadyBones::kCount; ++b) {
            for (const Side side : {Side::Left, Side::Right}) {
                if (SteadyBones::goesAcross(b) && side == Side::Right) continue;
                const auto [from, to] = SteadyBones::ends(b, side);
                m_problem.AddResidualBlock(new ceres::AutoDiffCostFunction<OffLength, 1, 3, 3>(
                                               new OffLength{bones.length(b), kOptions.boneSpread * m_size}),
                                           tolerant(), body[index(from)].data(), body[index(to)].data());
            }
        }
    }

    void addMovement(double step)
    {
        for (std::size_t k = 1; k < m_bodies.size(); ++k)
            for (std::size_t i = kFirstPoint; i < kLandmarkCount; ++i) {
                Vector3d &before = m_bodies[k - 1][i], &now = m_bodies[k][i];
                if (k + 1 < m_bodies.size())
                    m_problem.AddResidualBlock(new ceres::AutoDiffCostFunction<OffStraight, 3, 3, 3, 3>(
                                                   new OffStraight{kOptions.bendSpread * m_size}),
                                               nullptr, before.data(), now.data(), m_bodies[k + 1][i].data());
                const bool stands = i >= index(Landmark::LeftHeel) &&
                                    (now - before).norm() < kOptions.standingSpeed * step &&
                                    now.z() < kOptions.standingHeight;
                if (stands)
                    m_problem.AddResidualBlock(new ceres::AutoDiffCostFunction<Slid, 3, 3, 3>(
                                                   new Slid{kOptions.footSpread * m_size}),
                                               tolerant(), before.data(), now.data());
            }
    }

    double m_size;
    std::vector<BodyPoints> m_bodies; ///< in place before the problem points to them
    ceres::Problem m_problem;
};

using enum Landmark;
/// Of the left side, or of both where it goes across.
constexpr std::array<std::pair<Landmark, Landmark>, SteadyBones::kCount> kBones{{{LeftHip, LeftKnee},
                                                                                 {LeftKnee, LeftAnkle},
                                                                                 {LeftAnkle, LeftHeel},
                                                                                 {LeftAnkle, LeftToe},
                                                                                 {LeftHeel, LeftToe},
                                                                                 {LeftShoulder, LeftElbow},
                                                                                 {LeftElbow, LeftWrist},
                                                                                 {LeftHip, RightHip}}};

} // namespace

bool SteadyBones::goesAcross(std::size_t bone)
{
    return kBones[bone].second == mirrored(kBones[bone].first);
}

std::pair<Landmark, Landmark> SteadyBones::ends(std::size_t bone, Side side)
{
    const Landmark from = sided(kBones[bone].first, side);
    return {from, goesAcross(bone) ? mirrored(from) : sided(kBones[bone].second, side)};
}

SteadyBones::SteadyBones(std::span<const BodyPoints> bodies)
{
    for (std::size_t b = 0; b < kCount; ++b) {
        std::vector<double> lengths;
        for (const BodyPoints& body : bodies)
            for (const Side side : {Side::Left, Side::Right}) {
                const auto [from, to] = ends(b, side);
                lengths.push_back((body[index(from)] - body[index(to)]).norm());
            }
        if (lengths.empty()) continue;
        const auto half = lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2);
        std::nth_element(lengths.begin(), half, lengths.end());
        m_length[b] = *half;
    }
}

std::optional<BodyPoints> smoothTogether(const TwoViewMeasurer& measurer, const PairWindow& window,
                                         const SteadyBones& bones, double height)
{
    const auto seen = [](const std::vector<BodyFrame>& frames) {
        return std::all_of(frames.begin(), frames.end(), [](const BodyFrame& f) { return f.seen; });
    };
    if (window.first.empty() || window.first.size() != window.second.size() || !seen(window.first) ||
        !seen(window.second))
        return {};
    return WindowProblem(measurer, window, bones, height).middle();
}

} // namespace jl
