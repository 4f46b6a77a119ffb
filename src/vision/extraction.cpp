#include "vision/extraction.h"
#include "media/decoder.h"
#include "media/sound_reader.h"
#include "vision/body_tracker.h"
#include "vision/camera_shift.h"
#include "vision/second_pass.h"
#include "vision/uprights.h"
#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <future>
#include <thread>
#include <vector>

namespace jl
{
namespace
{

constexpr double kFirstPassShare = 0.75; ///< of the time, when heavy looks again

struct Shared {
    std::atomic<long> framesDone{0};
    std::atomic<bool> stop{false};
};

/// Gives the newest frame how far the camera has moved.
void addCameraShift(std::vector<BodyFrame>& frames, std::optional<CameraShift>& camera, const Frame& picture)
{
    BodyFrame& body = frames.back();
    const auto shift = camera ? camera->of(picture, body) : std::nullopt;
    body.cameraLost = camera && camera->canTell() && !shift;
    if (shift)
        body.cameraShift = *shift;
    else if (frames.size() > 1)
        body.cameraShift = frames[frames.size() - 2].cameraShift;
}

/// A camera on a stand does not move: what is found there is noise.
void standStill(Track& track)
{
    constexpr double least = 0.002; // of the picture's width
    for (const BodyFrame& f : track.frames)
        if (f.cameraShift.norm() > least * track.width) return;
    for (BodyFrame& f : track.frames)
        f.cameraShift.setZero();
}

/// Shows the tracker whom to follow, and winds the clip back.
Result<Done> takeUp(Decoder& decoder, BodyTracker& tracker, const ChosenPerson& person)
{
    auto sought = decoder.seek(person.time);
    if (!sought) return sought.error();
    auto frame = decoder.next();
    if (!frame) return frame.error();
    if (*frame) {
        tracker.choose(person.point);
        tracker.follow(**frame);
        tracker.forget();
    }
    return decoder.seek(0);
}

/// One worker's part of the clip: frames with begin <= time < end.
Result<std::vector<BodyFrame>> extractPart(const std::string& clip, const ExtractionOptions& options,
                                           double begin, double end, Shared& shared)
{
    auto decoder = Decoder::open(clip);
    if (!decoder) return decoder.error();
    auto tracker = BodyTracker::load(options.networks.model);
    if (!tracker) return tracker.error();
    if (options.person) {
        const auto met = takeUp(*decoder, *tracker, *options.person);
        if (!met) return met.error();
    }
    auto first = decoder->next(); // of the clip, for every part: shifts of the camera count from it
    if (!first) return first.error();
    std::optional<CameraShift> camera;
    if (*first) {
        camera.emplace(**first, tracker->follow(**first));
        tracker->forget();
        auto sought = decoder->seek(begin);
        if (!sought) return sought.error();
    }
    std::vector<BodyFrame> frames;
    while (!shared.stop) {
        auto frame = decoder->next();
        if (!frame) {
            shared.stop = true;
            return frame.error();
        }
        if (!*frame || (*frame)->time >= end) break;
        if ((*frame)->time < begin) continue;
        frames.push_back(tracker->follow(**frame));
        addCameraShift(frames, camera, **frame);
        ++shared.framesDone;
    }
    return frames;
}

/// A part may begin in a stance in which the clothes look otherwise than at the clip's beginning, so that the
/// body is not found there. Then it is followed from the part before, until it was found after all.
Result<Done> followOver(std::size_t seam, std::vector<BodyFrame>& frames, const std::string& clip,
                        const ExtractionOptions& options)
{
    if (seam == 0 || seam >= frames.size() || !frames[seam - 1].seen || frames[seam].seen) return Done{};
    auto decoder = Decoder::open(clip);
    if (!decoder) return decoder.error();
    auto tracker = BodyTracker::load(options.networks.model);
    if (!tracker) return tracker.error();
    auto sought = decoder->seek(frames[seam - 1].time);
    if (!sought) return sought.error();
    for (std::size_t i = seam - 1; i < frames.size() && (i < seam || !frames[i].seen);) {
        auto picture = decoder->next();
        if (!picture) return picture.error();
        if (!*picture) break;
        if ((*picture)->time < frames[i].time - 1e-6) continue;
        if (i < seam) {
            tracker->goOnFrom(**picture, frames[i]);
        } else {
            BodyFrame body = tracker->follow(**picture);
            if (!body.seen || std::abs(body.time - frames[i].time) > 1e-6) break;
            body.cameraShift = frames[i].cameraShift;
            body.cameraLost = frames[i].cameraLost;
            frames[i] = body;
        }
        ++i;
    }
    return Done{};
}

/// The camera's roll, of the picture in which the body is first seen.
std::optional<CameraRoll> rollIn(const std::string& clip, const Track& track)
{
    const auto body =
        std::find_if(track.frames.begin(), track.frames.end(), [](const auto& f) { return f.seen; });
    auto decoder = Decoder::open(clip);
    if (!decoder || body == track.frames.end() || !decoder->seek(body->time)) return {};
    const auto frame = decoder->next();
    return frame && *frame ? rollByUprights(**frame, *body) : std::nullopt;
}

/// Empty where the clip has no sound that can be read.
LoudnessCourse loudnessIn(const std::string& clip)
{
    auto reader = SoundReader::open(clip, LoudnessCourse::kSamplingRate);
    if (!reader || !reader->seek(0)) return {};
    std::vector<float> sound;
    for (auto more = reader->next(); !more.empty(); more = reader->next())
        sound.insert(sound.end(), more.begin(), more.end());
    return loudnessOf(sound);
}

} // namespace

Result<Track> extractTrack(const std::string& clip, const ExtractionOptions& options)
{
    const auto info = probe(clip);
    if (!info) return info.error();
    const double begin = options.range ? options.range->first : 0;
    const double end = options.range ? options.range->second : info->duration + 1e3;
    if (end <= begin || (info->duration > 0 && begin >= info->duration)) {
        char text[80];
        std::snprintf(text, sizeof text, "the range %.2f to %.2f s holds nothing of this clip (%.2f s long)",
                      begin, end, info->duration);
        return Error{Error::Kind::WrongUse, text, clip,
                     "Give a range inside the clip, such as --range 0,10."};
    }
    const int cores = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
    const double length = std::max(0.0, std::min(end, info->duration) - begin);
    const long expected = std::max(1L, std::lround(length * info->framesPerSecond));
    const int threads = static_cast<int>(
        std::clamp<long>(options.threads > 0 ? options.threads : cores, 1, std::max(1L, expected / 30)));

    const double passShare = options.networks.secondPass ? kFirstPassShare : 1;
    Shared shared;
    std::vector<std::future<Result<std::vector<BodyFrame>>>> parts;
    for (int i = 0; i < threads; ++i) {
        const double from = begin + length * i / threads,
                     to = i + 1 == threads ? end : begin + length * (i + 1) / threads;
        parts.push_back(std::async(std::launch::async, extractPart, clip, std::cref(options), from, to,
                                   std::ref(shared)));
    }
    bool cancelled = false;
    for (auto& part : parts) {
        while (part.wait_for(std::chrono::milliseconds(50)) != std::future_status::ready) {
            const double share = passShare * std::min(0.999, static_cast<double>(shared.framesDone) /
                                                                 static_cast<double>(expected));
            if (options.progress && !options.progress(share)) {
                cancelled = true;
                shared.stop = true;
            }
        }
    }
    Track track;
    track.width = info->width;
    track.height = info->height;
    track.framesPerSecond = info->framesPerSecond;
    track.clip = std::filesystem::path(clip).filename().string();
    track.model = options.networks.name();
    track.fieldOfView = info->fieldOfView;
    std::vector<std::size_t> seams;
    for (auto& part : parts) {
        auto frames = part.get();
        if (!frames) return frames.error();
        seams.push_back(track.frames.size());
        track.frames.insert(track.frames.end(), frames->begin(), frames->end());
    }
    if (cancelled) return Error{Error::Kind::Cancelled, "the extraction was stopped", clip, ""};
    for (const std::size_t seam : seams) {
        const auto followed = followOver(seam, track.frames, clip, options);
        if (!followed) return followed.error();
    }
    standStill(track);
    if (track.seenShare() == 0) {
        return Error{Error::Kind::NothingFound, "no person can be seen in this clip", clip,
                     "Film the whole body, well lit and in front of a calm background, and try again."};
    }
    track.loudness = loudnessIn(clip);
    track.roll = rollIn(clip, track);
    if (options.networks.secondPass) {
        const auto refined = runSecondPass(track, clip, threads, [&](double share) {
            return !options.progress || options.progress(passShare + (0.999 - passShare) * share);
        });
        if (!refined) return refined.error();
    }
    if (options.progress) options.progress(1.0);
    return track;
}

} // namespace jl
