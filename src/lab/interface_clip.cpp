#include "lab/interface_clip.h"
#include "base/json_file.h"
#include "exchange/track_pack.h"
#include "lab/network_noise.h"
#include "media/repeat.h"
#include "render/simulated_clip.h"
#include <algorithm>
#include <cmath>

namespace jl
{

Result<Done> makeInterfaceClip(const LabData& data, double minutes, const std::filesystem::path& folder)
{
    constexpr std::uint32_t seed = 4711;
    PerformanceRequest request;
    request.body = data.bodies.front();
    request.seed = seed;
    const auto performance = Performance::create(data.standards, request);
    if (!performance) return performance.error();
    ClipRequest clip;
    clip.camera = *cameraPlace("side", seed);
    clip.width = 1920;
    clip.height = 1080;
    Track track =
        withNoise(exactTrack(*performance, clip), bodyPixels(*performance, clip), seed, *data.errors);
    const double once = static_cast<double>(track.frames.size()) / clip.framesPerSecond;
    const int times = std::max(1, static_cast<int>(std::ceil(60 * minutes / once)));
    const std::string shown = (folder / InterfaceClip::kClip).string();
    const std::string rendered = times > 1 ? (folder / "once.mp4").string() : shown;
    const auto done = renderClip(*performance, clip, rendered);
    if (!done) return done.error();
    if (times > 1) {
        const auto repeated = repeatClip(rendered, times, shown);
        if (!repeated) return repeated.error();
        const std::vector<BodyFrame> frames = track.frames;
        for (int i = 1; i < times; ++i)
            for (BodyFrame f : frames) {
                f.time += i * once;
                track.frames.push_back(f);
            }
    }
    return writeText(folder / InterfaceClip::kTrack, packTrack(track));
}

} // namespace jl
