#include "lab/tracking_report.h"
#include <algorithm>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>

namespace jl
{

Result<std::vector<FollowedPosture>> followedPostures(const ShippedData& data,
                                                      const std::vector<CaseOutcome>& outcomes)
{
    struct Sums {
        int frames = 0, seen = 0;
        std::vector<float> errors;
    };
    std::map<std::string, Sums> sums;
    for (const CaseOutcome& o : outcomes) {
        const auto performance = performanceOf(data, o.request);
        if (!performance) return performance.error();
        const Camera camera = cameraFor(*performance, clipRequestOf(o.request));
        for (const BodyFrame& f : o.track.frames) {
            Sums& s = sums[performance->phaseAt(f.time).posture];
            ++s.frames;
            if (!f.seen) continue;
            ++s.seen;
            const Figure figure = performance->figureAt(f.time);
            const double tall =
                performance->body().height * camera.focal / camera.toCamera(figure.midHip).z();
            for (std::size_t i = index(Landmark::LeftShoulder); i < kLandmarkCount; ++i)
                s.errors.push_back(
                    static_cast<float>((f.point[i] - camera.project(figure.landmark[i])).norm() / tall));
        }
    }
    std::vector<FollowedPosture> rows;
    for (auto& [posture, s] : sums) {
        FollowedPosture row{posture, s.frames, s.seen, 0, 0};
        if (!s.errors.empty()) {
            std::sort(s.errors.begin(), s.errors.end());
            row.median = s.errors[s.errors.size() / 2];
            row.p90 = s.errors[s.errors.size() * 9 / 10];
        }
        rows.push_back(std::move(row));
    }
    return rows;
}

std::string followedText(const std::vector<FollowedPosture>& rows)
{
    std::string text =
        "posture                 frames  followed  median error      p90  (% of the body's height)\n";
    char line[160];
    for (const FollowedPosture& r : rows) {
        std::snprintf(line, sizeof line, "%-22s %7d %8.2f %% %13.2f %8.2f\n", r.posture.c_str(), r.frames,
                      100.0 * r.seen / std::max(1, r.frames), 100 * r.median, 100 * r.p90);
        text += line;
    }
    return text;
}

std::string followedJson(const std::vector<FollowedPosture>& rows)
{
    auto json = nlohmann::ordered_json::array();
    for (const FollowedPosture& r : rows)
        json.push_back({{"posture", r.posture},
                        {"frames", r.frames},
                        {"seen", r.seen},
                        {"median_error", r.median},
                        {"p90_error", r.p90}});
    return json.dump(1);
}

} // namespace jl
