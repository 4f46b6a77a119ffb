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

/// Share of a body's extent by which hair, clothes and fingers stand out beyond its points.
constexpr double kBodyMargin = 0.10;

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

CameraShift::Coarse CameraShift::coarse(const Frame& f)
{
    Coarse c;
    const int step = std::max(1, std::max(f.uprightWidth(), f.uprightHeight()) / kCoarseWidth);
    c.scale = step;
    c.width = f.uprightWidth() / step;
    c.height = f.uprightHeight() / step;
    c.light.resize(static_cast<std::size_t>(c.width) * static_cast<std::size_t>(c.height));
    // One step across or down the upright picture, in the picture as it is stored.
    const std::ptrdiff_t row = f.stride[0];
    const std::ptrdiff_t across = f.quarterTurns == 0   ? 1
                                  : f.quarterTurns == 1 ? -row
                                  : f.quarterTurns == 2 ? -1
                                                        : row;
    const std::ptrdiff_t down = f.quarterTurns == 0   ? row
                                : f.quarterTurns == 1 ? 1
                                : f.quarterTurns == 2 ? -row
                                                      : -1;
    const std::uint8_t* corner = f.plane[0];
    if (f.quarterTurns == 1 || f.quarterTurns == 2) corner += row * (f.height - 1);
    if (f.quarterTurns == 2 || f.quarterTurns == 3) corner += f.width - 1;
    for (int y = 0; y < c.height; ++y)
        for (int x = 0; x < c.width; ++x) {
            int sum = 0;
            const std::uint8_t* at = corner + y * step * down + x * step * across;
            for (int j = 0; j < step; ++j)
                for (int i = 0; i < step; ++i)
                    sum += at[j * down + i * across];
            c.light[static_cast<std::size_t>(y) * c.width + x] =
                static_cast<float>(sum) / static_cast<float>(step * step);
        }
    return c;
}

/// The mean over squares, by running sums along rows and then columns.
CameraShift::Coarse CameraShift::softened(const Coarse& picture, int reach)
{
    Coarse out = picture;
    const auto run = [&](int count, int length, int stepAlong, int stepAcross) {
        std::vector<float> line(static_cast<std::size_t>(length));
        for (int k = 0; k < count; ++k) {
            float* first = out.light.data() + k * stepAcross;
            float sum = 0;
            for (int i = 0; i < length; ++i)
                line[static_cast<std::size_t>(i)] = first[i * stepAlong];
            const auto at = [&](int i) {
                return line[static_cast<std::size_t>(std::clamp(i, 0, length - 1))];
            };
            for (int i = -reach; i <= reach; ++i)
                sum += at(i);
            for (int i = 0; i < length; ++i) {
                first[i * stepAlong] = sum / static_cast<float>(2 * reach + 1);
                sum += at(i + reach + 1) - at(i - reach);
            }
        }
    };
    run(out.height, out.width, 1, out.width);
    run(out.width, out.height, out.width, 1);
    return out;
}

CameraShift::Box CameraShift::boxOf(const BodyFrame& body, double scale)
{
    if (!body.seen) return {};
    const auto [l, r] = std::minmax_element(body.point.begin(), body.point.end(),
                                            [](const auto& a, const auto& b) { return a.x() < b.x(); });
    const auto [t, b] = std::minmax_element(body.point.begin(), body.point.end(),
                                            [](const auto& a, const auto& c) { return a.y() < c.y(); });
    const double margin = kBodyMargin * std::max(r->x() - l->x(), b->y() - t->y());
    return {(l->x() - margin) / scale, (r->x() + margin) / scale, (t->y() - margin) / scale,
            (b->y() + margin) / scale};
}

std::vector<CameraShift::Mark> CameraShift::marksOf(const Coarse& c, const Box& body)
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
    const Coarse picture = coarse(first);
    const Box box = boxOf(body, picture.scale);
    m_fine = marksOf(picture, box);
    m_soft = marksOf(softened(picture, kSoft), box);
    for (const Mark& m : m_fine) {
        m_parts[m.x < picture.width / 2 ? 0 : 1].push_back(m);
        m_parts[m.y < picture.height / 2 ? 2 : 3].push_back(m);
    }
    m_canTell = weaker(detailOf(m_fine)) > kLeastDetail;
}

std::optional<Vector2d> CameraShift::settle(const Coarse& now, const std::vector<Mark>& marks,
                                            const Box& body, Vector2d shift)
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
    const Coarse now = coarse(frame);
    const Box box = boxOf(body, now.scale);
    auto shift = settle(now, m_fine, box, m_last);
    if (!shift) {
        shift = settle(softened(now, kSoft), m_soft, box, m_last);
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
