#include "lineup/line_up.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/motion.h"
#include "lineup/dynamic_time_warping.h"
#include "lineup/picture_series.h"
#include "lineup/posture_search.h"
#include "lineup/stillness.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of timing the phases of the postures that were found.
/// Chosen on: the quick set (validate --quick).
struct LineUpOptions {
    /// Samples a second. x0.5: none; x2: err -1 %.
    double rate = 10;
    /// Mean cost above which the clip does not show this form. x0.5 and x2: none.
    Cost strangerCost = 0.13;
    /// Of the clip outside of all postures. x0.5 and x2: none.
    Share mostStrangers = 0.7;
    /// Of a phase that the clip does not show. x0.5 and x2: none.
    Cost notSeen = 1;
    /// Between two runs, from which on they do not follow each other. x0.5 and x2: none.
    Seconds between = 1.0;
    /// Of a clip, in which only the noise moves. x0.5: none; x2: key -1.2.
    Share resting = 0.1;
    /// Above which a single phase was not done. x0.5 and x2: none.
    Cost lostCost = 0.16;
    /// Of the model's time for a phase; what takes less was left out.
    /// x0.5: none; x2: err +7 %, u +0.9 %, n -5 %.
    Share leastTime = 0.2;
    /// Before the end of the clip, in which an arrival may be cut off. x0.5 and x2: none.
    Seconds cutEdge = 0.5;
    /// Times the motion of the stillness: then the body still moves at the end. x0.5 and x2: none.
    Ratio cutMoving = 3;
    /// Times the motion at rest: the least that counts as moving. x0.5 and x2: none.
    Ratio cutResting = 10;
    /// Points with the largest motion that do not count: a misread leg is no motion. x0.5 and x2: none.
    int pointsLeftOut = 3;
    /// Factor of the misfit below which the other stillness is the arrival. x0.5 and x2: none.
    Ratio surelyOther = 0.85;
    /// Of the model, over which a neighbour stillness is compared. x0.5 and x2: none.
    Seconds furthest = 1.5;
    /// Between two such comparisons. x0.5 and x2: none.
    Seconds furthestStep = 0.1;
    /// Largest correction for a late arrival of the model. x0.5: key +0.6; x2: none.
    Seconds mostSlack = 0.3;
    /// Distance of the path from an arrival beyond which it leads elsewhere. x0.5 and x2: none.
    Seconds mostOff = 1.0;
};
constexpr LineUpOptions kOptions;

/// Times the phases of one run by warping its own pictures with the model's.
class PhaseTiming
{
public:
    PhaseTiming(const Track& track, const ModelPerformance& model, double azimuth, double distance)
        : m_track(track), m_size(standingSize(track)), m_usual(motionQuantile(track, m_size, 0.5)),
          m_resting(motionQuantile(track, m_size, kOptions.resting)), m_still(track, m_size, m_resting),
          m_pictures(model, azimuth, distance)
    {
        m_modelTrack.framesPerSecond = model.framesPerSecond;
        for (std::size_t i = 0; i < model.frames.size(); ++i)
            m_modelTrack.frames.push_back(m_pictures.frameAt(static_cast<double>(i) / model.framesPerSecond));
        m_modelStill.emplace(m_modelTrack, standingSize(m_modelTrack), 0);
    }

    /// Replaces the run's time pairs by finer ones.
    void refine(PostureRun& run) const
    {
        if (run.otherSide || run.turned != 0 || run.rearranged || run.timePairs.size() < 3) return;
        const double slack = 1 / kOptions.rate;
        const PictureSeries clip =
            picturesOf(m_track, m_size, kOptions.rate, run.begin - slack, run.end + slack);
        const PictureSeries model =
            picturesOf(m_pictures, kOptions.rate, run.timePairs.front().second, run.timePairs.back().second);
        // Where the posture begins and ends is known: leaving samples out there must not pay, however odd
        // they are.
        const WarpingPath path =
            warp(static_cast<int>(clip.size()), static_cast<int>(model.size()),
                 [&](int i, int j) { return tolerantDissimilarity(clip.lines[i], model.lines[j]); },
                 {.stretchPenalty = 0.016, .skipPenalty = 0.5});
        if (path.steps.size() < 3) return;
        run.timePairs.clear();
        for (const auto& [i, j] : path.steps)
            run.timePairs.emplace_back(clip.time[i], model.time[j]);
    }

    FoundPhase find(const PostureRun& run, const ModelPerformance::Phase& p, double previous) const
    {
        FoundPhase found = phaseOf(run, p, previous);
        if ((!run.begun && p.time < run.timePairs.front().second) ||
            (!run.done && p.time > run.timePairs.back().second)) // cut or broken off before
            return found;
        const Stillness held = arrival(run, p, previous);
        found.time = std::min(held.middle() - ownLag(run, p, held), m_track.frames.back().time);
        if (held.begin < m_track.frames.front().time + 1 / m_track.framesPerSecond)
            found.stoodUntil = std::max(found.time, m_still.endOf(held) - ownDelay(run, p, held));
        found.cost = costAround(run, p.time);
        if (brokenOff(run.clipTimeAt(p.time), held)) {
            found.cost = kOptions.notSeen;
            return found;
        }
        // A phase that was left out, or begins just before the clip ends, is squeezed into next to no time.
        const double from = std::max(p.begin, run.timePairs.front().second);
        const bool squeezed =
            p.begin >= run.timePairs.front().second &&
            std::min(run.clipTimeAt(p.time) - run.clipTimeAt(p.begin), found.time - previous) <=
                kOptions.leastTime * std::max(0.2, p.time - from);
        found.matched = found.cost < kOptions.lostCost && !squeezed;
        return found;
    }

private:
    /// A clip may end on the way: then what was still before is not where the way leads, and nothing is still
    /// that moves until the end as it usually does.
    bool brokenOff(double guess, const Stillness& held) const
    {
        const double end = m_track.frames.back().time;
        if (end - guess > kOptions.cutEdge) return false;
        const auto motion = [&](double t) { return motionAt(m_track, m_size, t, kOptions.pointsLeftOut); };
        const double still = motion(held.middle()), rest = kOptions.cutResting * m_resting;
        if (end - held.end < kOptions.cutEdge / 2) return still > std::max(m_usual, rest);
        return motion(end - 0.2) > std::max(kOptions.cutMoving * still, rest);
    }

    /// Of all stillnesses about where the path puts a key moment, the one from which its neighbours lie as
    /// the model moves to its own key moment and on from it. How a body differs from the model everywhere
    /// does not matter to what lies between two pictures of it. None before the phase before has arrived.
    Stillness arrival(const PostureRun& run, const ModelPerformance::Phase& p, double previous) const
    {
        const double guess = run.clipTimeAt(p.time);
        const Stillness nearest = m_still.near(guess);
        if (run.otherSide || run.turned != 0 || run.rearranged) return nearest;
        const std::vector<Stillness> all = m_still.around(guess);
        const auto isNearest = [&](const Stillness& s) { return s.begin == nearest.begin; };
        const auto from = std::find_if(all.begin(), all.end(), isNearest);
        auto best = from;
        while (best + 1 != all.end() && isRather(*(best + 1), *best, p.time))
            ++best;
        if (best != from) return *best;
        while (best != all.begin() && (best - 1)->middle() > previous && isRather(*(best - 1), *best, p.time))
            --best;
        return *best;
    }

    /// Whether it is rather the other stillness in which the body arrived.
    bool isRather(const Stillness& other, const Stillness& thought, double key) const
    {
        return misfit(other, thought, key) < kOptions.surelyOther * misfit(thought, other, key);
    }

    /// How badly what lies between two stillnesses fits to the model's moves to its key moment, or on from
    /// it, if the body arrived in the first of the two.
    double misfit(const Stillness& arrived, const Stillness& other, double key) const
    {
        const BodyLines there = linesIn(arrived), seen = linesIn(other), model = m_pictures.at(key);
        double least = 1e9;
        for (double away = 0; away <= kOptions.furthest; away += kOptions.furthestStep) {
            BodyLines expected = m_pictures.at(other.begin < arrived.begin ? key - away : key + away);
            for (std::size_t i = 0; i < kBodyLineCount; ++i)
                expected[i] += there[i] - model[i];
            least = std::min(least, tolerantDissimilarity(seen, expected));
        }
        return least;
    }

    /// The body's lines, averaged.
    BodyLines linesIn(const Stillness& s) const
    {
        BodyLines mean;
        mean.fill(Eigen::Vector2d::Zero());
        int n = 0;
        for (std::size_t i = m_track.nearest(s.begin); i <= m_track.nearest(s.end); ++i) {
            if (!m_track.frames[i].seen) continue;
            const BodyLines lines = bodyLines(m_track.frames[i], m_size);
            for (std::size_t k = 0; k < kBodyLineCount; ++k)
                mean[k] += lines[k];
            ++n;
        }
        for (Eigen::Vector2d& line : mean)
            line /= std::max(1, n);
        return mean;
    }

    /// By how much later than the key moment the model itself seems to arrive, if as much motion passes for
    /// stillness as in the student: moves end all at once and begin part by part. In the student's time.
    double ownLag(const PostureRun& run, const ModelPerformance::Phase& p, const Stillness& held) const
    {
        return inOwnTime(run, held,
                         [&](double slack) { return m_modelStill->near(p.time, slack).middle() - p.time; });
    }

    /// The same of leaving a stillness: by how much later the model seems to move on than it begins to.
    double ownDelay(const PostureRun& run, const ModelPerformance::Phase& p, const Stillness& held) const
    {
        return inOwnTime(run, held, [&](double slack) {
            return m_modelStill->endOf(m_modelStill->near(p.time, slack)) -
                   m_modelStill->endOf(m_modelStill->near(p.time));
        });
    }

    /// A time of the model, s, by the slack that the student's stillness has at the model's tempo.
    template <class OfSlack>
    static double inOwnTime(const PostureRun& run, const Stillness& held, const OfSlack& modelTime)
    {
        const double slower = (run.timePairs.back().first - run.timePairs.front().first) /
                              std::max(0.1, run.timePairs.back().second - run.timePairs.front().second);
        return std::clamp(modelTime(held.slack * slower * slower) * std::clamp(slower, 0.5, 2.0),
                          -kOptions.mostSlack, kOptions.mostSlack);
    }

    double costAround(const PostureRun& run, double modelTime) const
    {
        if (run.otherSide || run.turned != 0 || run.rearranged) return run.cost;
        double cost = 0;
        int n = 0;
        for (const auto& [t, m] : run.timePairs) {
            if (std::abs(m - modelTime) > 0.25) continue;
            cost += tolerantDissimilarity(bodyLines(m_track.frames[m_track.nearest(t)], m_size),
                                          m_pictures.at(m));
            ++n;
        }
        return n ? cost / n : run.cost;
    }

    const Track& m_track;
    double m_size;
    double m_usual, m_resting; ///< motion of an ordinary moment of the clip, and of its noise
    StillnessFinder m_still;
    ModelPictures m_pictures;
    Track m_modelTrack; ///< the model as the clip's camera sees it
    std::optional<StillnessFinder> m_modelStill;
};

} // namespace

FoundPhase phaseOf(const PostureRun& run, const ModelPerformance::Phase& p, double from)
{
    return {p.posture,
            p.phase,
            p.stance,
            from,
            from,
            p.time,
            run.turned == 0 ? p.heading : wrapDeg(p.heading + run.turned),
            run.otherSide ? other(p.lead) : p.lead,
            kOptions.notSeen,
            false,
            run.otherSide,
            run.turned};
}

double LineUp::pathTimeAt(double clipTime) const
{
    const PostureRun* before = nullptr;
    for (const PostureRun& run : runs) {
        if (clipTime < run.timePairs.front().first) {
            if (!before) return run.timePairs.front().second + clipTime - run.timePairs.front().first;
            const double from = before->timePairs.back().first, to = run.timePairs.front().first;
            return mix(before->timePairs.back().second, run.timePairs.front().second,
                       (clipTime - from) / std::max(1e-9, to - from));
        }
        if (clipTime <= run.timePairs.back().first) return run.modelTimeAt(clipTime);
        before = &run;
    }
    return before ? before->timePairs.back().second + clipTime - before->timePairs.back().first : clipTime;
}

double LineUp::modelTimeAt(double clipTime) const
{
    constexpr double held = kHoldWindow / 2;
    const FoundPhase *before = nullptr, *after = nullptr;
    for (const FoundPhase& p : phases) {
        if (!p.matched) continue;
        if (std::abs(p.time - clipTime) <= held) return p.modelTime;
        if (p.time < clipTime && (!before || p.time > before->time)) before = &p;
        if (p.time > clipTime && (!after || p.time < after->time)) after = &p;
    }
    const double path = pathTimeAt(clipTime);
    const double from = before ? before->time + held : clipTime, to = after ? after->time - held : clipTime;
    // A path that is farther off leads elsewhere: in another order, or once more.
    const auto offAt = [&](const FoundPhase* p, double time) {
        const double off = p ? p->modelTime - pathTimeAt(time) : 2 * kOptions.mostOff;
        return std::abs(off) < kOptions.mostOff ? std::optional(off) : std::nullopt;
    };
    const auto offBefore = offAt(before, from), offAfter = offAt(after, to);
    if (!offBefore || !offAfter) return path + offBefore.value_or(offAfter.value_or(0));
    return path + mix(*offBefore, *offAfter, (clipTime - from) / std::max(1e-9, to - from));
}

const FoundPhase& LineUp::phaseAt(double clipTime) const
{
    const auto away = [&](const FoundPhase& p) { return p.matched ? std::abs(p.time - clipTime) : 1e9; };
    return *std::min_element(phases.begin(), phases.end(),
                             [&](const FoundPhase& a, const FoundPhase& b) { return away(a) < away(b); });
}

const PostureRun* LineUp::runAt(double clipTime) const
{
    const auto found = std::find_if(runs.begin(), runs.end(), [&](const PostureRun& r) {
        return clipTime >= r.begin && clipTime <= r.end;
    });
    return found == runs.end() ? nullptr : &*found;
}

const PostureRun* LineUp::runOf(std::size_t place) const
{
    const auto found = std::find_if(runs.begin(), runs.end(),
                                    [&](const PostureRun& r) { return r.counts && r.place == place; });
    return found == runs.end() ? nullptr : &*found;
}

bool LineUp::shows(std::size_t place) const
{
    const auto byPlace = [](const PostureRun& a, const PostureRun& b) { return a.place < b.place; };
    const auto [first, last] = std::minmax_element(runs.begin(), runs.end(), byPlace);
    return first != runs.end() && place >= first->place && place <= last->place;
}

bool LineUp::departs() const
{
    for (std::size_t i = 0; i < runs.size(); ++i)
        if (runs[i].otherSide || runs[i].turned != 0 || (i > 0 && runs[i].place != runs[i - 1].place + 1))
            return true;
    return false;
}

void LineUp::findPhases(const ModelPerformance& form, const PhaseFinder& find)
{
    phases.clear();
    const auto places = form.places();
    double previous = runs.front().begin;
    for (std::size_t place = 0; place < places.size(); ++place) {
        const PostureRun* run = runOf(place);
        // A posture begins where the one before arrived, unless something lies between.
        const bool standsYet = run && !phases.empty() && phases.back().stoodUntil && run->begin < previous &&
                               run->end > previous;
        if (run && !standsYet && std::abs(run->begin - previous) > kOptions.between) previous = run->begin;
        for (std::size_t i = places[place].firstPhase; i <= places[place].lastPhase; ++i) {
            const ModelPerformance::Phase& p = form.phases[i];
            if (!run) {
                phases.push_back(phaseOf({}, p, previous));
                continue;
            }
            phases.push_back(find(*run, p, previous));
            if (phases.back().matched) previous = phases.back().left();
        }
    }
}

namespace
{

std::optional<Error> tooLittleSeen(const Track& track)
{
    if (track.frames.size() >= 10 && track.seenShare() >= 0.2) return {};
    return Error{Error::Kind::NothingFound, "the body is seen in too few frames to find a form", track.clip,
                 "Film the whole body for the whole form."};
}

Result<LineUp> linedUpFrom(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& camera, PostureLook look)
{
    FoundPostures found = findPostures(track, models, camera, look);
    if (found.runs.empty() || found.meanCost > kOptions.strangerCost ||
        found.strangers > kOptions.mostStrangers)
        return Error{Error::Kind::NothingFound, "the movements in this clip do not follow this form",
                     track.clip,
                     "Choose the form that is performed, or film the whole body, head to feet, from its "
                     "opening to its close."};
    const ModelPerformance& model = models[camera.model];
    const PhaseTiming timing(track, model, camera.azimuth, camera.distance);
    LineUp out{camera.azimuth, camera.distance, found.meanCost, camera.model, {}, std::move(found.runs)};
    for (PostureRun& run : out.runs)
        timing.refine(run);
    smoothTimePairs(out.runs);
    out.findPhases(model, [&](const PostureRun& run, const ModelPerformance::Phase& p, double from) {
        return timing.find(run, p, from);
    });
    return out;
}

} // namespace

Result<LineUp> roughLineUp(const Track& track, std::span<const ModelPerformance> models,
                           std::optional<double> azimuthHint)
{
    if (const auto trouble = tooLittleSeen(track)) return *trouble;
    const FoundCamera camera = findCamera(track, models, azimuthHint);
    FoundPostures found = findPostures(track, models, camera, PostureLook::AsInForm);
    return LineUp{camera.azimuth, camera.distance, found.meanCost, camera.model, {}, std::move(found.runs)};
}

Result<LineUp> lineUp(const Track& track, std::span<const ModelPerformance> models,
                      std::optional<double> azimuthHint)
{
    if (const auto trouble = tooLittleSeen(track)) return *trouble;
    return linedUpFrom(track, models, findCamera(track, models, azimuthHint), PostureLook::EveryWay);
}

Result<LineUp> lineUpFrom(const LineUp& rough, const Track& track, std::span<const ModelPerformance> models,
                          PostureLook look)
{
    if (const auto trouble = tooLittleSeen(track)) return *trouble;
    return linedUpFrom(track, models,
                       findCameraNear(track, models, {rough.model, rough.azimuth, rough.distance}), look);
}

} // namespace jl
