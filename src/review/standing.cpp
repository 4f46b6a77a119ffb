#include "review/standing.h"
#include <algorithm>

namespace jl
{
namespace
{

using enum Measure;

/// What is looked at, and the measures that decide it.
struct Point {
    const char* what;
    std::vector<Measure> measures;
};

const std::vector<Point>& points()
{
    static const std::vector<Point> all{
        {"feet apart", {FeetParallelWidth}},
        {"feet parallel", {FootLeadAngle, FootRearAngle}},
        {"legs upright", {LegLeadSplay, LegRearSplay}},
        {"knees soft, over the toes", {KneeLeadFlexion, KneeRearFlexion, KneeLeadTrack, KneeRearTrack}},
        {"weight in the middle", {WeightLead}},
        {"trunk upright", {TrunkLeanForward, TrunkLeanSide}},
        {"ankle to ear in one line", {ColumnOffset, HeadForward}},
        {"shoulders level", {ShouldersLevel}},
        {"head level, eyes ahead", {HeadTilt, GazeDrop}},
    };
    return all;
}

const Finding* findingOf(const Review& review, std::size_t posture, std::size_t phase, Measure measure)
{
    const auto found = std::find_if(review.findings.begin(), review.findings.end(), [&](const Finding& f) {
        return f.posture == posture && f.phase == phase && f.measure == measure;
    });
    return found == review.findings.end() ? nullptr : &*found;
}

} // namespace

std::string_view stateName(StandingPoint::State state)
{
    constexpr std::string_view names[]{"good", "watch", "off", "unseen"};
    return names[static_cast<int>(state)];
}

bool Standing::seesAnything() const
{
    return std::any_of(points.begin(), points.end(),
                       [](const StandingPoint& p) { return p.state != StandingPoint::State::Unseen; });
}

std::optional<Standing> standingOf(const Review& review, const FaultRules& rules)
{
    if (review.postures.empty()) return {};
    const ReviewedPhase& phase = review.postures.front().phases.front();
    if (phase.student.stance != StanceKind::Parallel || phase.values.empty()) return {};
    Standing standing{phase.student.time, {}};
    using State = StandingPoint::State;
    for (const Point& p : points()) {
        StandingPoint point{p.what, State::Unseen, {}, {}, 0, p.measures.front()};
        for (Measure m : p.measures) {
            const JudgedValue& v = phase.values[static_cast<std::size_t>(m)];
            if (v.status == Status::Unseen || !v.band) continue;
            const Finding* f = findingOf(review, 0, 0, m);
            const State state = !f ? State::Good : f->severity == Severity::Watch ? State::Watch : State::Off;
            if (point.state != State::Unseen && state <= point.state) continue;
            point.state = state;
            point.measure = m;
            point.value = v.value.value;
            point.u = v.value.u;
            if (f) point.words = wordsOf(*rules.find(f->fault), review, *f).cue;
        }
        standing.points.push_back(std::move(point));
    }
    return standing;
}

} // namespace jl
