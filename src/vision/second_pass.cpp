#include "vision/second_pass.h"
#include "body/motion.h"
#include "media/decoder.h"
#include "vision/body_tracker.h"
#include <algorithm>
#include <atomic>
#include <cmath>
#include <future>

namespace jl
{
namespace
{

constexpr double kReach = 0.25;          ///< s on either side of a still moment
constexpr double kLooksPerSecond = 12.5; ///< the body hardly moves there, so not every frame is needed
constexpr double kFading = 0.8;          ///< s, over which what the heavy network saw otherwise is left again
constexpr double kAstray = 0.05;         ///< standing sizes: what was seen further off was a misread leg

struct Span {
    std::size_t first, last; ///< frames of the track, both included
};

std::vector<Span> spansOf(const Track& track)
{
    std::vector<Span> spans;
    for (double t : stillMoments(smoothed(track))) {
        const Span s{track.nearest(t - kReach), track.nearest(t + kReach)};
        if (!spans.empty() && s.first <= spans.back().last + 1)
            spans.back().last = s.last;
        else
            spans.push_back(s);
    }
    return spans;
}

/// Puts a body where another was seen; what is known of the camera stays.
void replace(BodyFrame& old, BodyFrame body)
{
    body.time = old.time;
    body.cameraShift = old.cameraShift;
    body.cameraLost = old.cameraLost;
    old = body;
}

struct Shared {
    std::atomic<std::size_t> next{0}; ///< span that nobody has taken yet
    std::atomic<std::size_t> done{0};
    std::atomic<bool> stop{false};
};

/// Looks again at every few frames of a span, always at its first and last.
Result<Done> look(Decoder& decoder, BodyTracker& tracker, Track& track, const Span& span, std::size_t stride)
{
    const auto sought = decoder.seek(track.frames[span.first].time);
    if (!sought) return sought.error();
    tracker.startAt(track.frames[span.first]);
    std::vector<std::size_t> looked;
    for (std::size_t i = span.first; i <= span.last; ++i) {
        std::optional<Frame> picture;
        do { // the frames of the track are those of the clip, in order
            auto frame = decoder.next();
            if (!frame) return frame.error();
            picture = std::move(*frame);
        } while (picture && picture->time < track.frames[i].time - 1e-4);
        if (!picture) break;
        if ((i - span.first) % stride != 0 && i != span.last) continue;
        const BodyFrame body = tracker.follow(*picture);
        if (!body.seen) continue;
        replace(track.frames[i], body);
        looked.push_back(i);
    }
    for (std::size_t k = 1; k < looked.size(); ++k) {
        if (looked[k] - looked[k - 1] > stride) continue; // somebody lost in between: leave those frames
        for (std::size_t i = looked[k - 1] + 1; i < looked[k]; ++i)
            replace(track.frames[i],
                    between(track.frames[looked[k - 1]], track.frames[looked[k]], track.frames[i].time));
    }
    return Done{};
}

Result<Done> work(const std::string& clip, BodyTracker tracker, Track& track, const std::vector<Span>& spans,
                  std::size_t stride, Shared& shared)
{
    auto decoder = Decoder::open(clip);
    if (!decoder) return decoder.error();
    for (std::size_t i = shared.next++; i < spans.size() && !shared.stop; i = shared.next++) {
        const auto done = look(*decoder, tracker, track, spans[i], stride);
        if (!done) return done.error();
        ++shared.done;
    }
    return Done{};
}

using Shift = std::array<Eigen::Vector2d, kLandmarkCount>;

/// By how much the sharpened points of a frame lie off the first look's.
Shift shiftOf(const BodyFrame& plain, const BodyFrame& sharp, double astray)
{
    Shift shift;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        shift[k] = sharp.point[k] - plain.point[k];
        if (shift[k].norm() > astray) shift[k].setZero();
    }
    return shift;
}

/// Two networks differ a little about where a joint is. Beside what was looked at again their difference is
/// faded out, or a body would seem to move where only the network changes, and to stand still between.
void fadeBeside(const Track& plain, Track& track, const std::vector<Span>& spans)
{
    const double astray = kAstray * standingSize(plain);
    const auto fade = [&](std::size_t edge, std::ptrdiff_t way, double room) {
        const BodyFrame& sharp = track.frames[edge];
        if (!plain.frames[edge].seen || !sharp.seen) return;
        const Shift shift = shiftOf(plain.frames[edge], sharp, astray);
        for (auto i = static_cast<std::ptrdiff_t>(edge) + way; i >= 0 && i < std::ssize(track.frames);
             i += way) {
            BodyFrame& f = track.frames[static_cast<std::size_t>(i)];
            const double left = 1 - std::abs(f.time - sharp.time) / std::min(kFading, room);
            if (left <= 0) return;
            for (std::size_t k = 0; k < kLandmarkCount; ++k)
                f.point[k] += left * shift[k];
        }
    };
    for (std::size_t i = 0; i < spans.size(); ++i) {
        const auto between = [&](std::size_t a, std::size_t b) {
            return plain.frames[b].time - plain.frames[a].time;
        };
        fade(spans[i].first, -1, i > 0 ? between(spans[i - 1].last, spans[i].first) : kFading);
        fade(spans[i].last, 1, i + 1 < spans.size() ? between(spans[i].last, spans[i + 1].first) : kFading);
    }
}

} // namespace

Result<Done> runSecondPass(Track& track, const std::string& clip, int threads, const Progress& progress)
{
    const std::vector<Span> spans = spansOf(track);
    if (spans.empty()) return Done{};
    const double fps = track.framesPerSecond > 0 ? track.framesPerSecond : 30;
    const auto stride = static_cast<std::size_t>(std::max(1.0, std::round(fps / kLooksPerSecond)));
    const Track plain = track;
    Shared shared;
    std::vector<std::future<Result<Done>>> workers; // spans do not overlap, so each writes its own frames
    std::optional<Error> wrong;
    for (int i = 0; i < std::min<int>(threads, static_cast<int>(spans.size())) && !wrong; ++i) {
        // One after the other: while it is read, a network takes more than twice the memory it keeps.
        auto tracker = BodyTracker::load(LandmarkModel::Heavy);
        if (tracker)
            workers.push_back(std::async(std::launch::async, work, clip, std::move(*tracker), std::ref(track),
                                         std::cref(spans), stride, std::ref(shared)));
        else
            wrong = tracker.error();
    }
    for (auto& worker : workers) {
        while (worker.wait_for(std::chrono::milliseconds(50)) != std::future_status::ready)
            if (progress && !progress(static_cast<double>(shared.done) / static_cast<double>(spans.size())))
                shared.stop = true;
        const auto done = worker.get();
        if (!done) wrong = done.error();
    }
    if (wrong) return *wrong;
    if (shared.stop) return Error{Error::Kind::Cancelled, "the extraction was stopped", clip, ""};
    fadeBeside(plain, track, spans);
    return Done{};
}

} // namespace jl
