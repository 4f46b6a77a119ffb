#include "pipeline/table_fit.h"
#include "measure/part_axes.h"
#include "pipeline/accuracy_report.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

double rounded(double value)
{
    return std::round(value * 1e4) / 1e4;
}

} // namespace

Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes)
{
    struct Sums {
        Eigen::Matrix3d normal = Eigen::Matrix3d::Identity() * 1e-3;
        Eigen::Vector3d right = Eigen::Vector3d::Zero();
    };
    std::array<Sums, kLandmarkCount> sums;
    for (const CaseOutcome& o : outcomes) {
        const auto performance = performanceOf(data, o.request);
        if (!performance) return performance.error();
        const Camera camera = cameraFor(*performance, clipRequestOf(o.request));
        const double size = performance->body().height / 1.70;
        for (const BodyFrame& f : o.track.frames) {
            if (!f.seen) continue;
            const Figure figure = performance->figureAt(f.time);
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                const auto l = std::min(static_cast<Landmark>(i), mirrored(static_cast<Landmark>(i)));
                const Eigen::Vector3d inCamera = camera.toCamera(figure.landmark[i]);
                const double metres = inCamera.z() / camera.focal;
                const Eigen::Vector2d residual = (f.point[i] - camera.project(figure.landmark[i])) * metres;
                if (residual.norm() > 0.07 || f.visibility[i] < 0.8)
                    continue; // a wrong point, not a convention
                const Eigen::Matrix<double, 2, 3> axes =
                    camera.rotation.topRows<2>() * partAxes(figure.landmark, static_cast<Landmark>(i)) * size;
                sums[index(l)].normal += axes.transpose() * axes;
                sums[index(l)].right += axes.transpose() * residual;
            }
        }
    }
    nlohmann::ordered_json table;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const auto l = static_cast<Landmark>(i);
        if (mirrored(l) < l) continue;
        const Eigen::Vector3d offset = sums[i].normal.ldlt().solve(sums[i].right);
        table[std::string(landmarkName(l))] = {rounded(offset.x()), rounded(offset.y()), rounded(offset.z())};
    }
    return table.dump(1) + "\n";
}

std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes)
{
    nlohmann::ordered_json table;
    for (ErrorGroup& g : errorGroups(outcomes)) {
        double variance = 0;
        for (double u : g.u)
            variance += u * u;
        std::vector<double> errors = std::move(g.error);
        errors.insert(errors.end(), g.unrated.begin(), g.unrated.end());
        if (errors.size() < 30) continue; // too few to say
        // The median and the 90th percentile: a leg that was misread altogether is no matter of uncertainty.
        const auto quantile = [](std::vector<double>& v, double share) {
            const auto at =
                v.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(v.size() - 1));
            std::nth_element(v.begin(), at, v.end());
            return *at;
        };
        const double bias = quantile(errors, 0.5), n = static_cast<double>(errors.size());
        for (double& e : errors)
            e = std::abs(e - bias);
        const double sd = quantile(errors, 0.9) / 1.645;
        const double floor = std::sqrt(std::max(0.0, sd * sd - variance / n));
        table[g.view][g.key] = {{"bias", rounded(bias)}, {"floor", rounded(floor)}};
    }
    return table.dump(1) + "\n";
}

} // namespace jl
