#include "cli/bench_export.h"
#include "base/day.h"
#include "base/paths.h"
#include "bundle/review_bundle.h"
#include "cli/drawing.h"
#include "draw/pair_clip.h"
#include "draw/slip_export.h"
#include "exchange/review_file.h"
#include "pipeline/clip_source.h"
#include <QTemporaryDir>
#include <chrono>
#include <functional>
#include <nlohmann/json.hpp>

namespace jl::cli
{
namespace
{

/// How long work takes, ms.
Result<double> timed(const std::function<Result<Done>()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    const auto done = work();
    if (!done) return done.error();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
}

/// As much of the clip as 20 s of moving pictures show, as often as it takes.
PairClipRequest twentySeconds(const ReviewScene& scene)
{
    constexpr Seconds lasts = 20;
    PairClipRequest request;
    request.timing = {.tempo = 1, .times = 1, .hold = 0};
    const Seconds clip = scene.student.track.duration();
    for (Seconds left = lasts; left > 0.1; left -= clip)
        request.passages.push_back(
            {0, std::min(left, clip), {}, "Walk on two rails", "Let the heel land.", {}});
    return request;
}

} // namespace

Result<ExportFigures> benchmarkExport(const std::string& clip, const NetworkChoice& networks)
{
    const std::string file = clip.empty() ? (dataFolder() / "demo/marit-side.mp4").string() : clip;
    const auto data = ShippedData::load(dataFolder());
    if (!data) return data.error();
    ReviewRequest request;
    auto track = trackOf(file, networks, {});
    if (!track) return track.error();
    request.student.track = std::move(*track);
    auto finished = makeReview(*data, request);
    if (!finished) return finished.error();
    const auto scene = sceneOf(std::move(*finished));
    const Drawing drawing;
    const QTemporaryDir folder;
    const auto in = [&](const char* name) { return folder.filePath(name).toStdString(); };
    const PictureFiles files{file, {}};
    const Slip slip = slipOf(scene->review, data->rules, nullptr,
                             {"Marit", "Form", today(), asProposed(scene->review), {}});
    const auto slipTime = timed([&]() -> Result<Done> {
        auto pictures = slipPictures(*scene, slip, files, Theme::paper());
        if (!pictures) return pictures.error();
        return writeSlip({slip, std::move(*pictures), Theme::paper()}, SlipFormat::Pdf, PaperSize::A5,
                         in("slip.pdf"));
    });
    if (!slipTime) return slipTime.error();
    const PairClipRequest moving = twentySeconds(*scene);
    const auto clipTime =
        timed([&] { return writePairClip(scene, files, moving, Theme::paper(), in("c.mp4")); });
    if (!clipTime) return clipTime.error();
    ReviewBundle bundle{"Marit", "side", today(), std::move(request), reviewJson(scene->review), {}, {}};
    bundle.videos[BundleRole::Student] = file;
    const auto bundleTime = timed([&] { return writeBundle(bundle, in("b.zip")); });
    if (!bundleTime) return bundleTime.error();
    std::size_t pictures = 0;
    for (const PairPassage& p : moving.passages)
        pictures += pictureTimes(p, moving.timing).size();
    return ExportFigures{*slipTime, 1000 * static_cast<double>(pictures) / *clipTime, *bundleTime};
}

std::string exportJson(const ExportFigures& f)
{
    return nlohmann::ordered_json{{"slip_ms", f.slipMs}, {"clip_fps", f.clipFps}, {"bundle_ms", f.bundleMs}}
        .dump(1);
}

std::string exportText(const ExportFigures& f)
{
    char text[200];
    std::snprintf(text, sizeof text,
                  "page for the student %.0f ms\nmoving picture %.1f pictures/s\nbundle %.0f ms\n", f.slipMs,
                  f.clipFps, f.bundleMs);
    return text;
}

} // namespace jl::cli
