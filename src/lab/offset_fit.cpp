#include "lab/offset_fit.h"
#include "body/part_axes.h"
#include <Eigen/Dense>
#include <cmath>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

double micrometres(double value)
{
    return std::round(value * 1e6) / 1e6;
}

} // namespace

Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes)
{
    // A constant offset and one that goes along with each component of the limb's direction.
    constexpr int unknowns = 12;
    struct Sums {
        Eigen::Matrix<double, unknowns, unknowns> normal =
            Eigen::Matrix<double, unknowns, unknowns>::Identity() * 1e-3;
        Eigen::Vector<double, unknowns> right = Eigen::Vector<double, unknowns>::Zero();
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
                const Eigen::Vector3d limb = limbDirection(figure.landmark, static_cast<Landmark>(i));
                Eigen::Matrix<double, 2, unknowns> design;
                design << axes, limb.x() * axes, limb.y() * axes, limb.z() * axes;
                sums[index(l)].normal += design.transpose() * design;
                sums[index(l)].right += design.transpose() * residual;
            }
        }
    }
    nlohmann::ordered_json table;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const auto l = static_cast<Landmark>(i);
        if (mirrored(l) < l) continue;
        const Eigen::Vector<double, unknowns> found = sums[i].normal.ldlt().solve(sums[i].right);
        const auto row = [&](int k, int from, int step) {
            nlohmann::ordered_json values = nlohmann::ordered_json::array();
            for (int c = 0; c < 3; ++c)
                values.push_back(micrometres(found[from + k + step * c]));
            return values;
        };
        nlohmann::ordered_json& out = table[std::string(landmarkName(l))];
        const nlohmann::ordered_json offset = row(0, 0, 1);
        if (found.tail<9>().isZero())
            out = offset;
        else
            out = {{"offset", offset}, {"follow", {row(0, 3, 3), row(1, 3, 3), row(2, 3, 3)}}};
    }
    const HipLine& hips = data.tables.offsets.hipLine(); // is not fitted here
    table["hip_line"] = {{"along", hips.along}, {"hidden", hips.hidden}};
    return table.dump(1) + "\n";
}

} // namespace jl
