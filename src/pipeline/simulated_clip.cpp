#include "pipeline/simulated_clip.h"
#include "base/angles.h"
#include "performer/truth.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <future>
#include <nlohmann/json.hpp>
#include <random>

namespace jl
{

Result<CameraPlace> cameraPlace(const std::string& view, std::uint32_t seed)
{
    CameraPlace place;
    if (view == "front")
        place.azimuth = 0;
    else if (view == "corner")
        place.azimuth = 45;
    else if (view == "side")
        place.azimuth = 90;
    else if (view == "behind")
        place.azimuth = 180;
    else {
        char rest = 0;
        const int read = std::sscanf(view.c_str(), "%lf,%lf,%lf%c", &place.azimuth, &place.elevation,
                                     &place.distance, &rest);
        if (read != 3 || place.distance < 1 || place.distance > 20 || std::abs(place.elevation) > 80)
            return Error{Error::Kind::WrongUse, "there is no camera \"" + view + "\"", "--camera",
                         "Use front, corner, side, behind, or azimuth, elevation and distance such as "
                         "90,4,4.2 (1 to 20 m, elevation within 80 degrees)."};
        return place;
    }
    if (seed != 0) {
        std::mt19937 random(seed * 7919u + 17u);
        std::normal_distribution<double> normal;
        const auto some = [&](double sd) { return sd * clampTo(normal(random), -2, 2); };
        place.azimuth += some(2.5);
        place.elevation += some(1);
        place.distance += some(0.15);
        place.roll += some(0.4);
    }
    return place;
}

Camera cameraFor(const Performance& performance, const ClipRequest& request)
{
    Eigen::Vector2d low(1e9, 1e9), high(-1e9, -1e9);
    for (const PerformedPhase& p : performance.phases()) {
        const Eigen::Vector2d hip = performance.figureAt(p.time).midHip.head<2>();
        low = low.cwiseMin(hip);
        high = high.cwiseMax(hip);
    }
    const Eigen::Vector2d middle = 0.5 * (low + high);
    const CameraPlace& c = request.camera;
    Camera camera = Camera::looking({middle.x(), middle.y(), 0.5 * performance.body().height}, c.azimuth,
                                    c.elevation, c.distance, c.roll);
    camera.focal = kUsualFocalShare * std::max(request.width, request.height);
    camera.centre = {0.5 * request.width, 0.5 * request.height};
    return camera;
}

namespace
{

std::size_t frameCount(const Performance& p, const ClipRequest& r)
{
    return static_cast<std::size_t>(std::floor(p.duration() * r.framesPerSecond)) + 1;
}

} // namespace

Result<Done> renderClip(const Performance& performance, const ClipRequest& request, const std::string& file)
{
    SceneOptions options;
    options.width = request.width;
    options.height = request.height;
    options.camera = cameraFor(performance, request);
    options.noise = request.noise;
    options.seed = request.seed + 1;
    const auto hall =
        std::find_if(halls().begin(), halls().end(), [&](const Hall& h) { return h.id == request.hall; });
    if (hall == halls().end()) {
        std::vector<std::string> known;
        for (const Hall& h : halls())
            known.push_back(h.id);
        return unknownId("hall", request.hall, known);
    }
    options.hall = *hall;

    EncoderOptions coding;
    coding.width = request.width;
    coding.height = request.height;
    coding.framesPerSecond = request.framesPerSecond;
    coding.quality = request.quality;
    auto encoder = Encoder::create(file, coding);
    if (!encoder) return encoder.error();

    const Scene scene(performance.body(), options);
    const std::size_t frames = frameCount(performance, request);
    constexpr std::size_t threads = 2;
    std::vector<Scene::Workspace> work(threads);
    const auto draw = [&](std::size_t i) {
        const double t = static_cast<double>(i) / request.framesPerSecond;
        return scene.draw(performance.figureAt(t), static_cast<std::uint32_t>(i), work[i % threads]);
    };
    for (std::size_t i = 0; i < frames; i += threads) {
        std::vector<std::future<RgbImage>> pictures;
        for (std::size_t k = i; k < std::min(i + threads, frames); ++k)
            pictures.push_back(std::async(std::launch::async, draw, k));
        for (std::size_t k = 0; k < pictures.size(); ++k) {
            const auto added =
                encoder->add(pictures[k].get(), static_cast<double>(i + k) / request.framesPerSecond);
            if (!added) return added.error();
        }
        if (request.progress && !request.progress(static_cast<double>(i) / static_cast<double>(frames)))
            return Error{Error::Kind::Cancelled, "the rendering was stopped", file, ""};
    }
    return encoder->finish();
}

Track exactTrack(const Performance& performance, const ClipRequest& request)
{
    const Camera camera = cameraFor(performance, request);
    Track track;
    track.width = request.width;
    track.height = request.height;
    track.framesPerSecond = request.framesPerSecond;
    track.model = "exact";
    for (std::size_t i = 0; i < frameCount(performance, request); ++i) {
        BodyFrame f;
        f.time = static_cast<double>(i) / request.framesPerSecond;
        f.seen = true;
        f.score = 1;
        const Figure figure = performance.figureAt(f.time);
        for (std::size_t k = 0; k < kLandmarkCount; ++k) {
            f.point[k] = camera.project(figure.landmark[k]);
            f.metric[k] = camera.rotation * (figure.landmark[k] - figure.midHip);
            f.visibility[k] = 1;
        }
        track.frames.push_back(f);
    }
    return track;
}

std::string truthJson(const Performance& performance, const ClipRequest& request)
{
    using Json = nlohmann::ordered_json;
    Json j;
    j["faults"] = Json::array();
    for (const PerformedFault& f : performance.faults())
        j["faults"].push_back({{"id", f.id}, {"size", f.size}, {"posture", f.posture}, {"phase", f.phase}});
    j["phases"] = Json::array();
    for (const PerformedPhase& p : performance.phases()) {
        Json measures;
        const Figure figure = performance.figureAt(p.time);
        for (const MeasureInfo& m : allMeasures())
            measures[measureId(m.measure, p.lead)] = trueMeasure(m.measure, figure, p.lead, p.heading);
        j["phases"].push_back({{"posture", p.posture},
                               {"side", p.lead == Side::Left ? "L" : "R"},
                               {"phase", p.phase},
                               {"time", p.time},
                               {"begin", p.begin},
                               {"measures", measures}});
    }
    const Camera c = cameraFor(performance, request);
    j["camera"] = {{"azimuth", request.camera.azimuth},
                   {"elevation", request.camera.elevation},
                   {"distance", request.camera.distance},
                   {"roll", request.camera.roll},
                   {"focal", c.focal},
                   {"position", {c.position.x(), c.position.y(), c.position.z()}},
                   {"width", request.width},
                   {"height", request.height}};
    j["body"] = {{"id", performance.body().id},
                 {"height", performance.body().height},
                 {"foot_length", performance.body().footLength()}};
    Json frames;
    frames["time"] = Json::array();
    for (std::size_t i = 0; i < frameCount(performance, request); ++i) {
        const double t = static_cast<double>(i) / request.framesPerSecond;
        const Figure figure = performance.figureAt(t);
        frames["time"].push_back(t);
        const PerformedPhase& p = performance.phaseAt(t);
        for (const MeasureInfo& m : allMeasures())
            frames[measureId(m.measure, p.lead)].push_back(trueMeasure(m.measure, figure, p.lead, p.heading));
    }
    j["frames"] = std::move(frames);
    return j.dump(1);
}

} // namespace jl
