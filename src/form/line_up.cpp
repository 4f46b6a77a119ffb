#include "form/line_up.h"
#include "base/angles.h"
#include "body/motion.h"
#include "form/body_lines.h"
#include "form/dynamic_time_warping.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kRate = 10;            ///< samples a second of the fine line-up
constexpr double kStrangerCost = 0.085; ///< above this mean cost it is not this form
constexpr double kLostCost = 0.16;      ///< above this cost a single phase was not done

/// The pictures of a clip or of the model at an even rate.
struct Series {
    std::vector<double> time;
    std::vector<BodyLines> lines;

    Series(const Track& track, double rate)
    {
        const double size = standingSize(track);
        for (double t = track.frames.front().time; t <= track.frames.back().time; t += 1 / rate) {
            const BodyFrame& f = track.frames[track.nearest(t)];
            if (!f.seen) continue;
            time.push_back(f.time);
            lines.push_back(bodyLines(f, size));
        }
    }

    Series(const ModelPerformance& model, double azimuth, double rate)
    {
        const ModelPictures pictures(model, azimuth);
        for (double t = 0; t <= model.duration(); t += 1 / rate) {
            time.push_back(t);
            lines.push_back(pictures.at(t));
        }
    }
};

WarpingPath compare(const Series& clip, const Series& model)
{
    return warp(static_cast<int>(clip.time.size()), static_cast<int>(model.time.size()),
                [&](int i, int j) { return unlikeness(clip.lines[i], model.lines[j]).tolerant(); },
                {.stretchPenalty = 0.016, .skipPenalty = 0.05});
}

double interpolated(const std::vector<std::pair<double, double>>& pairs, double x, bool forward)
{
    const auto key = [&](const std::pair<double, double>& p) { return forward ? p.first : p.second; };
    const auto value = [&](const std::pair<double, double>& p) { return forward ? p.second : p.first; };
    if (pairs.empty()) return x;
    if (x <= key(pairs.front())) return value(pairs.front()) + x - key(pairs.front());
    if (x >= key(pairs.back())) return value(pairs.back()) + x - key(pairs.back());
    // Where several pairs share a time the middle of them is meant.
    const auto low =
        std::lower_bound(pairs.begin(), pairs.end(), x, [&](const auto& p, double v) { return key(p) < v; });
    const auto high =
        std::upper_bound(pairs.begin(), pairs.end(), x, [&](double v, const auto& p) { return v < key(p); });
    if (low != high) return 0.5 * (value(*low) + value(*std::prev(high)));
    const auto &a = *std::prev(low), &b = *low;
    return value(a) + (value(b) - value(a)) * (x - key(a)) / (key(b) - key(a));
}

/// The middle of the stillness nearest to where the path puts a key moment: that is where the posture has
/// arrived.
double arrival(const Track& track, double size, double guess)
{
    constexpr double reach = 0.5, step = 1 / 30.0;
    std::vector<std::pair<double, double>> course; // (time, motion)
    for (double t = guess - reach; t <= guess + reach; t += step)
        if (t >= track.frames.front().time && t <= track.frames.back().time)
            course.emplace_back(t, motionAt(track, size, t));
    if (course.empty()) return guess;
    const auto cost = [&](const std::pair<double, double>& c) {
        return c.second + 0.02 * (c.first - guess) * (c.first - guess);
    };
    const auto stillest = std::min_element(course.begin(), course.end(),
                                           [&](const auto& a, const auto& b) { return cost(a) < cost(b); });
    // Noise makes one moment of a hold a little stiller than the others: take all that are about as still.
    const double limit = 2.5 * stillest->second + 2e-4;
    auto first = stillest, last = stillest;
    while (first != course.begin() && std::prev(first)->second < limit)
        --first;
    while (std::next(last) != course.end() && std::next(last)->second < limit)
        ++last;
    return 0.5 * (first->first + last->first);
}

} // namespace

double LineUp::modelTimeAt(double clipTime) const
{
    return interpolated(timePairs, clipTime, true);
}

double LineUp::clipTimeAt(double modelTime) const
{
    return interpolated(timePairs, modelTime, false);
}

const FoundPhase& LineUp::phaseAt(double clipTime) const
{
    const auto away = [&](const FoundPhase& p) { return p.matched ? std::abs(p.time - clipTime) : 1e9; };
    return *std::min_element(phases.begin(), phases.end(),
                             [&](const FoundPhase& a, const FoundPhase& b) { return away(a) < away(b); });
}

Result<LineUp> lineUp(const Track& track, std::span<const ModelPerformance> models,
                      std::optional<double> azimuthHint)
{
    if (track.frames.size() < 10 || track.seenShare() < 0.2)
        return Error{Error::Kind::NothingFound, "the body is seen in too few frames to find a form",
                     track.clip, "Film the whole body for the whole form."};
    const double coarseRate = 5;
    const Series coarse(track, coarseRate);
    struct Try {
        double cost = 1e9;
        std::size_t model = 0;
        double azimuth = 0;
    } best;
    const auto attempt = [&](const Series& clip, std::size_t m, double azimuth, double rate) {
        const double cost = compare(clip, Series(models[m], azimuth, rate)).meanCost;
        if (cost < best.cost) best = {cost, m, azimuth};
    };
    for (std::size_t m = 0; m < models.size(); ++m) {
        for (double azimuth = 0; azimuth < 360; azimuth += 15) {
            if (azimuthHint && std::abs(wrapDeg(azimuth - *azimuthHint)) > 30) continue;
            attempt(coarse, m, azimuth, coarseRate);
        }
    }
    const Try around = best;
    for (double turn : {-10.0, -5.0, 5.0, 10.0})
        attempt(coarse, around.model, around.azimuth + turn, coarseRate);

    const Series clip(track, kRate);
    const ModelPerformance& model = models[best.model];
    const Series series(model, best.azimuth, kRate);
    const WarpingPath path = compare(clip, series);
    LineUp out;
    out.azimuth = wrapDeg(best.azimuth);
    out.model = best.model;
    out.meanCost = path.meanCost;
    if (path.meanCost > kStrangerCost)
        return Error{Error::Kind::NothingFound, "the movements in this clip do not follow this form",
                     track.clip,
                     "Choose the form that is performed, or film the section from its opening to its close."};
    for (const auto& [i, j] : path.steps)
        out.timePairs.emplace_back(clip.time[i], series.time[j]);

    const double size = standingSize(track);
    double previous = out.timePairs.front().first;
    for (const ModelPerformance::Phase& p : model.phases) {
        FoundPhase found{p.posture, p.phase, p.stance, previous, 0, p.time, p.heading, p.lead, 0, true};
        found.time = arrival(track, size, out.clipTimeAt(p.time));
        double cost = 0;
        int n = 0;
        for (const auto& [i, j] : path.steps) {
            if (std::abs(series.time[j] - p.time) > 0.25) continue;
            cost += unlikeness(clip.lines[i], series.lines[j]).tolerant();
            ++n;
        }
        found.cost = n ? cost / n : 1;
        // A phase that was left out is squeezed into next to no time, or looks like something else.
        const double share =
            (out.clipTimeAt(p.time) - out.clipTimeAt(p.begin)) / std::max(0.2, p.time - p.begin);
        const bool squeezed = share <= 0.2 && p.begin > 0; // before the first phase a clip may begin late
        found.matched = found.cost < kLostCost && !squeezed;
        previous = found.time;
        out.phases.push_back(found);
    }
    return out;
}

} // namespace jl
