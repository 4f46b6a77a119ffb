#include "lab/error_fit.h"
#include "base/median.h"
#include "moment/arm_sight.h"
#include "render/simulated_clip.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

namespace jl
{
namespace
{

constexpr Eigen::Index kSize = 2 * kLandmarkCount;
using Matrix = Eigen::Matrix<double, kSize, kSize>;

/// What the networks did at one key moment, and from where they saw it.
struct Moment {
    std::size_t clip = 0;
    double angle = 0; ///< viewAngle()
    bool stands = false;
    PointErrors off = PointErrors::Zero();
    std::array<bool, 2> armSeen{};
};

Moment inMirror(Moment m)
{
    m.angle = -m.angle;
    m.off = mirrored(m.off);
    std::swap(m.armSeen[0], m.armSeen[1]);
    return m;
}

/// Which arm a coordinate belongs to, if any.
std::optional<Side> armOf(Eigen::Index coordinate)
{
    const auto l = static_cast<Landmark>(coordinate / 2);
    if (l < Landmark::LeftElbow || l >= Landmark::LeftHip) return {};
    return mirrored(l) < l ? Side::Right : Side::Left;
}

/// The mean over the frames shortly before, at and after a moment: without what trembles.
std::optional<Moment> momentAt(const Track& found, const Track& exact, double time, double bodyPixels)
{
    constexpr double apart = 0.1; // s
    Moment m;
    int n = 0;
    for (double t : {time - apart, time + apart, time}) {
        const std::size_t f = found.nearest(t);
        if (f >= exact.frames.size() || !found.frames[f].seen) continue;
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            m.off.segment<2>(static_cast<Eigen::Index>(2 * k)) +=
                (found.frames[f].point[k] - exact.frames[f].point[k]) / bodyPixels;
        m.angle = viewAngle(exact.frames[f]);
        m.stands = standingShare(exact.frames[f]) > 0.5;
        m.armSeen = {jl::armSeen(found.frames[f], Side::Left), jl::armSeen(found.frames[f], Side::Right)};
        ++n;
    }
    if (n == 0) return {};
    m.off /= n;
    return m;
}

/// The moments about one view of bodies that stand, or do not, weighed by how near they are to it.
class ViewFit
{
public:
    ViewFit(const std::vector<Moment>& all, bool standing, double angle) : m_angle(angle)
    {
        for (const Moment& m : all) {
            const double weight = 1 - std::abs(std::abs(m.angle) - angle) / NetworkErrors::kStep;
            if (weight <= 0 || m.stands != standing) continue;
            add(m.angle < 0 ? inMirror(m) : m, weight);
            // What is seen from the very front or back looks the same in a mirror.
            if (angle == 0 || angle == 180) add(inMirror(m.angle < 0 ? inMirror(m) : m), weight);
        }
        for (Eigen::Index i = 0; i < kSize; ++i)
            settle(i);
    }

    NetworkErrors::View view() const
    {
        NetworkErrors::View out;
        double all = 0;
        std::array<double, 2> seen{};
        for (const auto& [m, weight] : m_moments) {
            all += weight;
            for (std::size_t arm : {0u, 1u})
                seen[arm] += m.armSeen[arm] ? weight : 0;
        }
        for (std::size_t arm : {0u, 1u})
            out.armSeen[arm] = all > 0 ? std::round(1e3 * seen[arm] / all) / 1e3 : 1;
        const Eigen::SelfAdjointEigenSolver<Matrix> parts(covariance());
        out.root = parts.eigenvectors() * parts.eigenvalues().cwiseMax(0).cwiseSqrt().asDiagonal() *
                   parts.eigenvectors().transpose();
        return out;
    }

    /// Variances times the weight of all moments: about the means of their clips, and about that of all.
    struct Scatter {
        PointErrors within = PointErrors::Zero(), total = PointErrors::Zero();
    };
    Scatter scatter() const
    {
        struct Clip {
            double weight = 0, squares = 0;
            PointErrors sum = PointErrors::Zero();
        };
        std::map<std::size_t, Clip> clips;
        double weights = 0, free = 0;
        Scatter out;
        for (const auto& [m, weight] : m_moments) {
            Clip& c = clips[m.clip];
            c.weight += weight;
            c.squares += weight * weight;
            c.sum += weight * m.off;
            weights += weight;
            out.total += weight * (m.off - m_mean).cwiseAbs2();
        }
        for (const auto& [m, weight] : m_moments) {
            const Clip& c = clips[m.clip];
            out.within += weight * (m.off - c.sum / c.weight).cwiseAbs2();
        }
        for (const auto& [number, c] : clips)
            free += c.weight - c.squares / c.weight;
        if (free > 0) out.within *= weights / free;
        return out;
    }

private:
    struct Weighed {
        Moment moment;
        double weight;
    };

    void add(const Moment& m, double weight) { m_moments.push_back({m, weight}); }

    static bool counts(const Moment& m, Eigen::Index i)
    {
        const auto arm = armOf(i);
        return !arm || m.armSeen[static_cast<std::size_t>(*arm)];
    }

    /// Calls with every value of a coordinate that counts.
    template <class Use>
    void each(Eigen::Index i, const Use& use)
    {
        for (Weighed& w : m_moments)
            if (counts(w.moment, i)) use(w.moment.off[i], std::abs(w.moment.angle) - m_angle, w.weight);
    }

    struct Range {
        double low = 0, high = 0;
        double drawnIn(double value) const { return std::clamp(value, low, high); }
    };
    /// Beyond which a coordinate is quite wrong.
    Range usual(Eigen::Index i)
    {
        constexpr double wide = 3.5, perMedian = 1.4826;
        std::vector<double> values;
        each(i, [&](double value, double, double) { values.push_back(value); });
        if (values.empty()) return {};
        const double middle = median(values);
        for (double& v : values)
            v = std::abs(v - middle);
        const double half = wide * perMedian * median(values);
        return {middle - half, middle + half};
    }

    /// Takes off what goes along with the angle, draws in what is quite wrong, and finds the mean.
    void settle(Eigen::Index i)
    {
        double weights = 0, x = 0, y = 0, xx = 0, xy = 0;
        const Range before = usual(i);
        each(i, [&](double value, double off, double weight) {
            const double v = before.drawnIn(value);
            weights += weight;
            x += weight * off;
            y += weight * v;
            xx += weight * off * off;
            xy += weight * off * v;
        });
        if (weights <= 0) return;
        const double spread = xx * weights - x * x;
        const bool oneSided = m_angle == 0 || m_angle == 180;
        const double slope = oneSided || spread < 1e-9 ? 0 : (xy * weights - x * y) / spread;
        each(i, [&](double& value, double off, double) { value -= slope * off; });
        const Range after = usual(i);
        double sum = 0;
        each(i, [&](double& value, double, double weight) {
            value = after.drawnIn(value);
            sum += weight * value;
        });
        m_mean[i] = sum / weights;
    }

    Matrix covariance() const
    {
        Matrix sum = Matrix::Zero(), weights = Matrix::Zero();
        for (const auto& [m, weight] : m_moments) {
            PointErrors use;
            for (Eigen::Index i = 0; i < kSize; ++i)
                use[i] = counts(m, i);
            const PointErrors off = (m.off - m_mean).cwiseProduct(use);
            sum += weight * off * off.transpose();
            weights += weight * use * use.transpose();
        }
        return sum.cwiseQuotient(weights.cwiseMax(1e-9));
    }

    double m_angle;
    std::vector<Weighed> m_moments;
    PointErrors m_mean = PointErrors::Zero();
};

Result<std::vector<Moment>> momentsOf(const ShippedData& data, const std::vector<CaseOutcome>& outcomes)
{
    std::vector<Moment> moments;
    for (std::size_t clip = 0; clip < outcomes.size(); ++clip) {
        const CaseOutcome& o = outcomes[clip];
        const auto performance = performanceOf(data, o.request);
        if (!performance) return performance.error();
        const ClipRequest request = clipRequestOf(o.request);
        const Track exact =
            conventionalTrack(*performance, request, data.tables.offsets, clipTimes(*performance, request));
        const double pixels = bodyPixels(*performance, request);
        for (const PerformedPhase& phase : performance->phases()) {
            auto m = momentAt(o.track, exact, phase.time, pixels);
            if (!m) continue;
            m->clip = clip;
            moments.push_back(*m);
        }
    }
    return moments;
}

} // namespace

Result<NetworkErrors> fitErrors(const ShippedData& data, const std::vector<CaseOutcome>& outcomes)
{
    const auto moments = momentsOf(data, outcomes);
    if (!moments) return moments.error();
    NetworkErrors::Poses poses;
    PointErrors within = PointErrors::Zero(), total = PointErrors::Zero();
    for (const bool standing : {false, true})
        for (std::size_t n = 0; n < NetworkErrors::kViews; ++n) {
            const ViewFit fit(*moments, standing, NetworkErrors::kStep * static_cast<double>(n));
            (standing ? poses.standing : poses.moving)[n] = fit.view();
            if (standing) continue; // once in a clip: it says nothing of what stays over it
            const ViewFit::Scatter scatter = fit.scatter();
            within += scatter.within;
            total += scatter.total;
        }
    std::array<double, kLandmarkCount> steady{};
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        const auto at = static_cast<Eigen::Index>(2 * k);
        const auto other = static_cast<Eigen::Index>(2 * index(mirrored(static_cast<Landmark>(k))));
        const auto both = [&](const PointErrors& v) {
            return v.segment<2>(at).sum() + v.segment<2>(other).sum();
        };
        steady[k] = both(total) > 0 ? std::clamp(1 - both(within) / both(total), 0.0, 1.0) : 0;
    }
    return NetworkErrors(std::move(poses), steady);
}

} // namespace jl
