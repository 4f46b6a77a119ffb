#include "app/jobs/performer_feed.h"
#include "pipeline/simulated_clip.h"

namespace jl
{

PerformerFilm filmPerformer(const ShippedData& data, const std::string& form, const std::string& school,
                            Side lead, double azimuth)
{
    PerformanceRequest request;
    request.form = form;
    request.school = school;
    request.lead = lead;
    request.body = data.bodies.front();
    const auto performance = Performance::create(data.standards, request);
    if (!performance) return {};
    ClipRequest clip;
    clip.camera.azimuth = azimuth;
    clip.width = 960;
    clip.height = 720;
    clip.noise = 0;
    SceneOptions options;
    options.width = clip.width;
    options.height = clip.height;
    options.noise = 0;
    options.camera = cameraFor(*performance, clip);
    const auto makeSource = [performance = *performance, options]() -> FrameFeed::Source {
        // The scene is built in the feed's own thread.
        auto scene = std::make_shared<Scene>(performance.body(), options);
        auto work = std::make_shared<Scene::Workspace>();
        return [=](double time) {
            const RgbImage rgb = scene->draw(performance.figureAt(time), 0, *work);
            return QImage(rgb.data.data(), rgb.width, rgb.height, 3 * rgb.width, QImage::Format_RGB888)
                .copy();
        };
    };
    return {std::make_unique<FrameFeed>(makeSource, clip.framesPerSecond), exactTrack(*performance, clip)};
}

} // namespace jl
