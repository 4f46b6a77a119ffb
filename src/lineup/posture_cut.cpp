#include "lineup/posture_cut.h"
#include <algorithm>
#include <cmath>
#include <cstdio>

namespace jl
{
namespace
{

using Place = ModelPerformance::Place;

PostureCut cutOf(const PostureRun& run, const LineUp& lineUp, const Place& place)
{
    const FoundPhase& first = lineUp.phases[place.firstPhase];
    PostureCut cut{run.place, first.posture, first.lead, run.begin, run.end, run.order, 0, {}};
    for (std::size_t i = place.firstPhase; i <= place.lastPhase; ++i) {
        const FoundPhase& p = lineUp.phases[i];
        if (p.matched) cut.phases.push_back({p.phase, p.time, keyMomentConfidence(p.cost)});
    }
    // The last arrival may be a little later than the run was thought to end.
    if (!cut.phases.empty()) cut.end = std::max(cut.end, cut.phases.back().time);
    for (const PostureCut::Phase& p : cut.phases)
        cut.confidence += p.confidence / static_cast<double>(cut.phases.size());
    return cut;
}

std::string seconds(double time)
{
    char text[32];
    std::snprintf(text, sizeof text, "%.2f s", time);
    return text;
}

/// Says what is wrong with a cut; empty where nothing is.
class CutCheck
{
public:
    CutCheck(const ModelPerformance& model, double first, double last)
        : m_model(model), m_places(model.places()), m_taken(m_places.size(), false), m_last(last),
          m_previous(first)
    {
    }

    /// The next posture in the clip's order.
    std::string trouble(const PostureCut& cut)
    {
        if (cut.place >= m_places.size())
            return name(cut) + ": the form has " + std::to_string(m_places.size()) + " postures";
        const std::string& expected = m_model.phases[m_places[cut.place].firstPhase].posture;
        if (cut.id != expected) return name(cut) + ": the form has \"" + expected + "\" there";
        if (m_taken[cut.place]) return name(cut) + " is there twice";
        m_taken[cut.place] = true;
        if (!(cut.begin >= m_previous - kSameTime && cut.end > cut.begin && cut.end <= m_last + kSameTime))
            return name(cut) + " lies from " + seconds(cut.begin) + " to " + seconds(cut.end) +
                   ", which is not within the clip and after the posture before it";
        m_previous = cut.end;
        return phaseTrouble(cut);
    }

private:
    static constexpr double kSameTime = 0.05; // s; what is written is rounded

    static std::string name(const PostureCut& cut)
    {
        return "posture " + std::to_string(cut.place + 1) + " (\"" + cut.id + "\")";
    }

    std::string phaseTrouble(const PostureCut& cut) const
    {
        double previous = cut.begin - kSameTime;
        auto from = m_model.phases.begin() + static_cast<std::ptrdiff_t>(m_places[cut.place].firstPhase);
        const auto end =
            m_model.phases.begin() + static_cast<std::ptrdiff_t>(m_places[cut.place].lastPhase) + 1;
        for (const PostureCut::Phase& p : cut.phases) {
            from = std::find_if(from, end, [&](const auto& m) { return m.phase == p.id; });
            if (from == end)
                return name(cut) + " has no phase \"" + p.id + "\", or has it earlier than those before it";
            ++from;
            if (!(p.time > previous && p.time <= cut.end + kSameTime))
                return name(cut) + ", \"" + p.id + "\": " + seconds(p.time) +
                       " is not within the posture and after the phase before it";
            previous = p.time;
        }
        return {};
    }

    const ModelPerformance& m_model;
    std::vector<Place> m_places;
    std::vector<bool> m_taken;
    double m_last;
    double m_previous; ///< s, where the posture before ends
};

PostureRun runOf(const PostureCut& cut, const LineUp& found, const ModelPerformance& model,
                 const Place& place)
{
    PostureRun run;
    if (const PostureRun* same = found.runOf(cut.place)) run = *same;
    run.place = cut.place;
    run.otherSide = cut.lead != model.phases[place.firstPhase].lead;
    run.begin = cut.begin;
    run.end = cut.end;
    run.begun = run.done = run.counts = true;
    run.timePairs = {{cut.begin, place.begin}};
    std::size_t next = place.firstPhase;
    for (const PostureCut::Phase& p : cut.phases) {
        while (model.phases[next].phase != p.id)
            ++next;
        run.timePairs.emplace_back(p.time, model.phases[next++].time);
    }
    run.timePairs.emplace_back(cut.end, std::max(place.end, run.timePairs.back().second));
    return run;
}

} // namespace

std::vector<PostureCut> cutsOf(const LineUp& lineUp, const ModelPerformance& model)
{
    const std::vector<Place> places = model.places();
    std::vector<PostureCut> cuts;
    for (const PostureRun& run : lineUp.runs) {
        if (!run.counts) continue;
        PostureCut cut = cutOf(run, lineUp, places[run.place]);
        if (!cuts.empty()) cut.begin = std::max(cut.begin, cuts.back().end);
        cuts.push_back(std::move(cut));
    }
    return cuts;
}

double keyMomentConfidence(double dissimilarity)
{
    constexpr double ordinary = 0.04;
    return dissimilarity < ordinary ? 0.93 : 0.8; // 2374 and 114 of them
}

Result<LineUp> lineUpAsCut(const LineUp& found, const ModelPerformance& model,
                           std::span<const PostureCut> cuts, double first, double last)
{
    const auto refused = [](const std::string& what) {
        return Error{Error::Kind::BadInput,
                     what,
                     {},
                     "Change the times that \"cut\" proposed, or take postures and phases out; keep their "
                     "names and places."};
    };
    if (cuts.empty()) return refused("it names no posture");
    std::vector<PostureCut> inClip(cuts.begin(), cuts.end());
    std::stable_sort(inClip.begin(), inClip.end(),
                     [](const PostureCut& a, const PostureCut& b) { return a.begin < b.begin; });
    CutCheck check(model, first, last);
    const std::vector<Place> places = model.places();
    LineUp out = found;
    out.runs.clear();
    std::size_t furthest = 0;
    for (const PostureCut& cut : inClip) {
        if (const std::string trouble = check.trouble(cut); !trouble.empty()) return refused(trouble);
        PostureRun run = runOf(cut, found, model, places[cut.place]);
        run.order = cut.place < furthest ? PostureRun::Order::OutOfOrder : PostureRun::Order::InPlace;
        furthest = std::max(furthest, cut.place);
        out.runs.push_back(std::move(run));
    }
    out.findPhases(model, [&](const PostureRun& run, const ModelPerformance::Phase& p, double from) {
        const auto& cut = *std::find_if(inClip.begin(), inClip.end(),
                                        [&](const PostureCut& c) { return c.place == run.place; });
        const auto moment = std::find_if(cut.phases.begin(), cut.phases.end(),
                                         [&](const PostureCut::Phase& c) { return c.id == p.phase; });
        FoundPhase phase = phaseOf(run, p, from);
        phase.matched = moment != cut.phases.end();
        if (!phase.matched) return phase;
        phase.time = moment->time;
        phase.cost = run.cost;
        return phase;
    });
    return out;
}

} // namespace jl
