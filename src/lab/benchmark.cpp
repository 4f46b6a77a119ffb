#include "lab/benchmark.h"
#include "lab/network_noise.h"
#include "media/decoder.h"
#include "pipeline/clip_source.h"
#include "pipeline/make_review.h"
#include "render/simulated_clip.h"
#include "vision/network.h"
#include "vision/second_pass.h"
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/resource.h>
#include <thread>
#include <unistd.h>

namespace jl
{
namespace
{

using Clock = std::chrono::steady_clock;

double secondsSince(Clock::time_point begin)
{
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

/// A rendered clip in the temporary folder that is removed again.
struct BenchmarkClip {
    std::string file;
    bool own = false;
    ~BenchmarkClip()
    {
        std::error_code ignored;
        if (own) std::filesystem::remove(file, ignored);
    }
};

Result<double> renderBenchmarkClip(const ShippedData& data, const std::string& file)
{
    PerformanceRequest request;
    request.body = data.bodies.front();
    request.seed = 4711;
    const auto performance = Performance::create(data.standards, request);
    if (!performance) return performance.error();
    ClipRequest clip;
    clip.camera = *cameraPlace("side", 4711);
    clip.seed = 4711;
    const auto begin = Clock::now();
    const auto done = renderClip(*performance, clip, file);
    if (!done) return done.error();
    return performance->duration() * clip.framesPerSecond / secondsSince(begin);
}

Result<double> inferenceOnly(LandmarkModel model, int threads)
{
    const auto file = landmarkFile(model);
    if (!file) return file.error();
    std::vector<Network> networks;
    for (int i = 0; i < threads; ++i) {
        auto network = Network::load(*file, {"Identity", "Identity_1", "Identity_3", "Identity_4"});
        if (!network) return network.error();
        network->run();
        networks.push_back(std::move(*network));
    }
    constexpr int runs = 120;
    const auto begin = Clock::now();
    std::vector<std::thread> workers;
    workers.reserve(networks.size());
    for (Network& n : networks)
        workers.emplace_back([&n] {
            for (int i = 0; i < runs; ++i)
                n.run();
        });
    for (std::thread& w : workers)
        w.join();
    return runs * threads / secondsSince(begin);
}

Result<double> decodeOnly(const std::string& file)
{
    auto decoder = Decoder::open(file);
    if (!decoder) return decoder.error();
    const auto begin = Clock::now();
    int frames = 0;
    for (;; ++frames) {
        auto frame = decoder->next();
        if (!frame) return frame.error();
        if (!*frame) break;
    }
    return frames / secondsSince(begin);
}

Result<Done> scrub(const std::string& file, BenchmarkFigures& figures)
{
    auto decoder = Decoder::open(file);
    if (!decoder) return decoder.error();
    std::mt19937 random(7);
    std::vector<double> times;
    for (int i = 0; i < 120; ++i) {
        const double t = decoder->info().duration * static_cast<double>(random() % 1000) / 1010.0;
        const auto begin = Clock::now();
        const auto sought = decoder->seek(t);
        if (!sought) return sought.error();
        auto frame = decoder->next();
        if (!frame) return frame.error();
        if (*frame) static_cast<void>(toRgb(**frame, 1280));
        times.push_back(1000 * secondsSince(begin));
    }
    std::sort(times.begin(), times.end());
    figures.scrubMedianMs = times[times.size() / 2];
    figures.scrub95Ms = times[times.size() * 95 / 100];
    return Done{};
}

/// How long the review of a five minute form takes, ms.
Result<double> longReview(const LabData& data)
{
    PerformanceRequest request;
    request.form = "full-24";
    request.seed = 5;
    request.tempo = 0.92;
    const auto performance = Performance::create(data.standards, request);
    if (!performance) return performance.error();
    ClipRequest clip;
    clip.camera.azimuth = 40;
    clip.camera.fit = true;
    ReviewRequest ask;
    ask.student.track =
        withNoise(exactTrack(*performance, clip), bodyPixels(*performance, clip), 5, *data.errors);
    ask.form = request.form;
    const auto begin = Clock::now();
    const auto review = makeReview(data, std::move(ask), FormComparison::Later);
    if (!review) return review.error();
    return 1000 * secondsSince(begin);
}

} // namespace

Result<BenchmarkFigures> runBenchmark(const LabData& data, const NetworkChoice& networks,
                                      const std::string& given)
{
    BenchmarkFigures f;
    f.model = modelName(networks.model);
    f.threads = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
    BenchmarkClip clip{given, given.empty()};
    if (clip.own) {
        clip.file = (std::filesystem::temp_directory_path() /
                     ("jolly-lantern-bench-" + std::to_string(::getpid()) + ".mp4"))
                        .string();
        const auto fps = renderBenchmarkClip(data, clip.file);
        if (!fps) return fps.error();
        f.renderFps = *fps;
    }
    const auto inference = inferenceOnly(networks.model, f.threads);
    if (!inference) return inference.error();
    f.inferenceOnlyFps = *inference;
    const auto decoded = decodeOnly(clip.file);
    if (!decoded) return decoded.error();
    f.decodeOnlyFps = *decoded;
    auto begin = Clock::now();
    auto track = trackOf(clip.file, {networks.model, false}, {});
    if (!track) return track.error();
    f.frames = static_cast<int>(track->frames.size());
    f.extractionFps = f.frames / secondsSince(begin);
    if (networks.secondPass) {
        const auto refined = runSecondPass(*track, clip.file, f.threads, {});
        if (!refined) return refined.error();
        f.twoPassFps = f.frames / secondsSince(begin);
    }
    f.width = track->width;
    f.height = track->height;
    begin = Clock::now();
    ReviewRequest request;
    request.student.track = std::move(*track);
    const auto review = makeReview(data, std::move(request), FormComparison::Later);
    f.reviewMs = 1000 * secondsSince(begin);
    if (!review && given.empty()) return review.error();
    const auto longer = longReview(data);
    if (!longer) return longer.error();
    f.longReviewMs = *longer;
    const auto scrubbed = scrub(clip.file, f);
    if (!scrubbed) return scrubbed.error();
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    f.memoryMb = static_cast<double>(usage.ru_maxrss) / 1024;
    return f;
}

std::string benchmarkJson(const BenchmarkFigures& f)
{
    const nlohmann::ordered_json j{{"extraction",
                                    {{"model", f.model},
                                     {"size", std::to_string(f.width) + "x" + std::to_string(f.height)},
                                     {"frames", f.frames},
                                     {"threads", f.threads},
                                     {"fps", f.extractionFps},
                                     {"inference_only_fps", f.inferenceOnlyFps},
                                     {"decode_only_fps", f.decodeOnlyFps},
                                     {"ratio", f.extractionFps / f.inferenceOnlyFps},
                                     {"two_pass_fps", f.twoPassFps}}},
                                   {"render_fps", f.renderFps},
                                   {"review_ms", f.reviewMs},
                                   {"review_five_minutes_ms", f.longReviewMs},
                                   {"scrub_ms", {{"median", f.scrubMedianMs}, {"p95", f.scrub95Ms}}},
                                   {"memory_mb", f.memoryMb}};
    return j.dump(1);
}

std::string benchmarkText(const BenchmarkFigures& f)
{
    char text[700];
    std::snprintf(text, sizeof text,
                  "extraction     %7.1f frames/s with %s, %dx%d, %d frames, %d threads\n"
                  "with heavy too %7.1f frames/s (heavy looks again where the body is still)\n"
                  "inference only %7.1f frames/s (extraction reaches %.0f %%)\n"
                  "decoding only  %7.1f frames/s, one thread\n"
                  "rendering      %7.1f frames/s\n"
                  "review         %7.0f ms\n"
                  "of 5 minutes   %7.0f ms\n"
                  "scrubbing      %7.0f ms median, %.0f ms at the 95th percentile\n"
                  "memory         %7.0f MB at most\n",
                  f.extractionFps, f.model.c_str(), f.width, f.height, f.frames, f.threads, f.twoPassFps,
                  f.inferenceOnlyFps, 100 * f.extractionFps / f.inferenceOnlyFps, f.decodeOnlyFps,
                  f.renderFps, f.reviewMs, f.longReviewMs, f.scrubMedianMs, f.scrub95Ms, f.memoryMb);
    return text;
}

} // namespace jl
