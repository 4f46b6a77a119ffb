#include "app/jobs/performer_feed.h"
#include "draw/rgb_image.h"
#include "media/preview.h"
#include "render/simulated_clip.h"
#include <QCryptographicHash>
#include <cmath>
#include <filesystem>

namespace jl
{
namespace
{

/// Own standards may change what a form looks like, so that the film is known by what it shows.
QString nameOf(const Track& track)
{
    QCryptographicHash hash(QCryptographicHash::Sha1);
    for (std::size_t i = 0; i < track.frames.size(); i += 10)
        for (const Eigen::Vector2d& p : track.frames[i].point) {
            const int pixel[] = {static_cast<int>(std::lround(p.x())), static_cast<int>(std::lround(p.y()))};
            hash.addData(QByteArrayView(reinterpret_cast<const char*>(pixel), sizeof pixel));
        }
    return "performer-" + QString::fromLatin1(hash.result().toHex().left(16)) + "-" LANTERN_VERSION;
}

} // namespace

Result<PerformerFilm> filmPerformer(const ShippedData& data, const std::string& form,
                                    const std::string& school, Side lead, double azimuth)
{
    constexpr double step = 5; // deg; a film is reused for directions within it
    PerformanceRequest request;
    request.form = form;
    request.school = school;
    request.lead = lead;
    request.body = data.bodies.front();
    const auto performance = Performance::create(data.standards, request);
    if (!performance) return performance.error();
    ClipRequest clip;
    clip.camera.azimuth = step * std::round(azimuth / step);
    clip.width = 960;
    clip.height = 720;
    clip.noise = 0;
    SceneOptions options;
    options.width = clip.width;
    options.height = clip.height;
    options.noise = 0;
    options.camera = cameraFor(*performance, clip);
    PerformerFilm film;
    film.track = exactTrack(*performance, clip);
    film.name = nameOf(film.track);
    film.camera = options.camera;
    film.bodyAt = [performance = *performance](double time) { return performance.figureAt(time).landmark; };
    film.make = [performance = *performance, clip](const std::string& path, const Progress& progress) {
        ClipRequest small = clip;
        small.width = clip.width * kPreviewHeight / clip.height;
        small.height = kPreviewHeight;
        small.quicklySought = true;
        small.progress = progress;
        return renderClip(performance, small, path);
    };
    film.drawn = [performance = *performance, options]() -> FrameFeed::Source {
        // The scene is built in the feed's own thread.
        auto scene = std::make_shared<Scene>(performance.body(), options);
        auto work = std::make_shared<Scene::Workspace>();
        return [=](double time, FrameFeed::Quality) -> QImage {
            return imageOf(scene->draw(performance.figureAt(time), 0, *work));
        };
    };
    return film;
}

std::function<FrameFeed::Source()> PerformerFilm::source(const std::string& path) const
{
    return [path, draw = drawn]() -> FrameFeed::Source {
        auto film = std::make_shared<FrameFeed::Source>();
        auto drawing = std::make_shared<FrameFeed::Source>();
        return [=](double time, FrameFeed::Quality quality) -> QImage {
            std::error_code ignored;
            if (!*film && std::filesystem::exists(path, ignored)) *film = videoSource(path, kPreviewHeight);
            const bool sharp = quality == FrameFeed::Quality::Sharp;
            if (*film && !sharp) return (*film)(time, quality);
            if (!*film && sharp) return {}; // the draft was drawn already
            if (!*film) standBack();        // until there is a film, every picture is drawn
            if (!*drawing) *drawing = draw();
            return (*drawing)(time, quality);
        };
    };
}

} // namespace jl
