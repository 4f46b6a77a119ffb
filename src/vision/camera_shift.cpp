#include "vision/camera_shift.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Matrix2d;
using Eigen::Vector2d;

namespace
{

constexpr int kCoarseWidth = 320;
constexpr int kSoft = 5;              ///< pixels the pictures are softened by for larger shifts
constexpr float kEdge = 3;            ///< grey levels per pixel; a flatter place is no mark
constexpr double kOutlier = 12;       ///< grey levels from which a difference counts less
constexpr double kLeastDetail = 6000; ///< sum of squared gradients in the weaker direction
constexpr double kDisagreement = 1.2; ///< pixels by which halves of the picture may differ
constexpr double kSettled = 0.02;     ///< pixels of the last step
constexpr int kMostSteps = 25;

Matrix2d detailOf(const auto& marks)
{
    Matrix2d sum = Matrix2d::Zero();
    for (const auto& m : marks) {
        const Vector2d g(m.across, m.down);
        sum += g * g.transpose();
    }
    return sum;
}

double weaker(const Matrix2d& detail)
{
    return Eigen::SelfAdjointEigenSolver<Matrix2d>(detail).eigenvalues()[0];
}

} // namespace

std::vector<CameraShift::Mark> CameraShift::marksOf(const CoarsePicture& c, const BodyBox& body)
{
    std::vector<Mark> marks;
    for (int y = 1; y + 1 < c.height; ++y)
        for (int x = 1; x + 1 < c.width; ++x) {
            if (body.holds(x, y)) continue;
            const Mark m{x, y, c.at(x, y), 0.5f * (c.at(x + 1, y) - c.at(x - 1, y)),
                         0.5f * (c.at(x, y + 1) - c.at(x, y - 1))};
            if (std::hypot(m.across, m.down) > kEdge) marks.push_back(m);
        }
    return marks;
}

CameraShift::CameraShift(const Frame& first, const BodyFrame& body)
{
    const CoarsePicture picture(first, kCoarseWidth);
    const BodyBox box(body, picture.scale);
    m_fine = marksOf(picture, box);
    m_soft = marksOf(picture.softened(kSoft), box);
    for (const Mark& m : m_fine) {
        m_parts[m.x < picture.width / 2 ? 0 : 1].push_back(m);
        m_parts[m.y < picture.height / 2 ? 2 : 3].push_back(m);
    }
    m_canTell = weaker(detailOf(m_fine)) > kLeastDetail;
}

std::optional<Vector2d> CameraShift::settle(const CoarsePicture& now, const std::vector<Mark>& marks,
                                            const BodyBox& body, Vector2d shift)
{
    for (int step = 0; step < kMostSteps; ++step) {
        const int wholeX = static_cast<int>(std::floor(shift.x())),
                  wholeY = static_cast<int>(std::floor(shift.y()));
        const auto fx = static_cast<float>(shift.x() - wholeX), fy = static_cast<float>(shift.y() - wholeY);
        Matrix2d normal = Matrix2d::Zero();
        Vector2d right = Vector2d::Zero();
        for (const Mark& m : marks) {
            const int x = m.x + wholeX, y = m.y + wholeY;
            if (x < 0 || y < 0 || x + 1 >= now.width || y + 1 >= now.height || body.holds(x, y)) continue;
            const float light = (1 - fy) * ((1 - fx) * now.at(x, y) + fx * now.at(x + 1, y)) +
                                fy * ((1 - fx) * now.at(x, y + 1) + fx * now.at(x + 1, y + 1));
            const double difference = light - m.light, size = std::abs(difference);
            const double weight = size > kOutlier ? kOutlier / size : 1;
            const Vector2d g(m.across, m.down);
            normal += weight * g * g.transpose();
            right += weight * difference * g;
        }
        if (weaker(normal) < 0.25 * kLeastDetail) return {};
        const Vector2d change = normal.inverse() * right;
        shift -= change.norm() > 2 ? Vector2d(2 * change.normalized()) : change;
        if (change.norm() < kSettled) return shift;
    }
    return {};
}

std::optional<Vector2d> CameraShift::of(const Frame& frame, const BodyFrame& body)
{
    if (!m_canTell) return {};
    const CoarsePicture now(frame, kCoarseWidth);
    const BodyBox box(body, now.scale);
    auto shift = settle(now, m_fine, box, m_last);
    if (!shift) {
        shift = settle(now.softened(kSoft), m_soft, box, m_last);
        if (shift) shift = settle(now, m_fine, box, *shift);
    }
    if (!shift) return {};
    for (const auto& part : m_parts)
        if (weaker(detailOf(part)) > kLeastDetail)
            if (const auto own = settle(now, part, box, *shift);
                own && (*own - *shift).norm() > kDisagreement)
                return {};
    m_last = *shift;
    return *shift * now.scale;
}

} // namespace jl
