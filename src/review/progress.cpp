#include "review/progress.h"
#include <algorithm>
#include <cmath>
#include <tuple>

namespace jl
{
namespace
{

Change changeOf(double difference, double u) // difference: how much nearer to the band
{
    return std::abs(difference) <= 2 * u ? Change::Same : difference > 0 ? Change::Better : Change::Worse;
}

/// How far out of the band on the side a rule speaks of; 0 inside. Records do not say which side led a
/// posture: what a rule asks of that side counts on both.
double offBy(const FaultRule& rule, const Band& band, double value)
{
    const double excess = band.excess(value);
    const bool bySide = rule.edge == Edge::Lead || rule.edge == Edge::Rear;
    const bool concerned = bySide || rule.concerns(rule.oriented(excess, band, Side::Right));
    return concerned ? std::abs(excess) : 0;
}

std::string_view keyOf(const FaultRule& rule)
{
    return rule.measure ? measureInfo(*rule.measure).key : phaseMeasureInfo(*rule.whole).key;
}

/// The mean change of a fault's measure over the phases seen both times in which it was out of its band at
/// least once.
struct Trend {
    double nearer = 0, u = 0;
    int phases = 0;
    bool otherView = false;
};

Trend trendOf(const FaultRule& rule, const ReviewRecord& before, const ReviewRecord& now)
{
    Trend trend;
    for (const ReviewRecord::Value& v : now.values) {
        if (v.measure != keyOf(rule) || !v.band) continue;
        const ReviewRecord::Value* old = before.value(v.posture, v.phase, v.measure);
        if (!old || !old->band) continue;
        if (old->view != v.view) {
            trend.otherView = true;
            continue;
        }
        const double was = offBy(rule, *old->band, old->value), is = offBy(rule, *v.band, v.value);
        if (was == 0 && is == 0) continue;
        trend.nearer += was - is;
        trend.u += std::hypot(old->u, v.u);
        ++trend.phases;
    }
    if (trend.phases > 0) {
        trend.nearer /= trend.phases;
        trend.u /= trend.phases;
    }
    return trend;
}

std::string counts(int shows, int could)
{
    return std::to_string(shows) + " of " + std::to_string(could);
}

FaultChange faultChange(const FaultRule& rule, const ReviewRecord& before, const ReviewRecord& now)
{
    FaultChange c{rule.id, Change::Same, false, false, 0, 0, 0, 0, {}};
    const FaultCount *old = before.fault(rule.id), *is = now.fault(rule.id);
    if (old) std::tie(c.before, c.beforeOf) = std::pair(old->shows, old->could);
    if (is) std::tie(c.now, c.nowOf) = std::pair(is->shows, is->could);
    if (!old || !is) {
        c.change = Change::NotComparable;
        c.words = is ? "could not be seen last time" : "cannot be seen in this clip";
        return c;
    }
    if (!rule.measure && !rule.whole) { // the order of postures is seen or not, without an uncertainty
        c.change = c.now < c.before ? Change::Better : c.now > c.before ? Change::Worse : Change::Same;
    } else {
        const Trend trend = trendOf(rule, before, now);
        if (trend.phases == 0) {
            c.change = Change::NotComparable;
            c.words = trend.otherView ? "seen from another side than last time"
                                      : "seen in other phases than last time";
            return c;
        }
        c.change = changeOf(trend.nearer, trend.u);
    }
    c.gone = c.change == Change::Better && c.now == 0 && c.before > 0;
    c.isNew = c.change == Change::Worse && c.before == 0 && c.now > 0;
    const std::string is_ = counts(c.now, c.nowOf), was = counts(c.before, c.beforeOf);
    c.words = c.gone                       ? "in band now, was out " + was + " times"
              : c.isNew                    ? "new: " + is_
              : c.change == Change::Better ? "better: " + is_ + ", was " + was
              : c.change == Change::Worse  ? "more than last time: " + is_ + ", was " + was
                                           : "as last time, within measuring error: " + is_ + ", was " + was;
    return c;
}

std::string whyIncomparable(const ReviewRecord& before, const ReviewRecord& now)
{
    if (before.form != now.form || before.postures != now.postures) return "last time it was another form";
    if (before.school != now.school) return "last time it was judged by another school";
    if (before.side != now.side) return "last time it was done on the other side";
    return {};
}

} // namespace

std::string_view changeName(Change c)
{
    constexpr std::string_view names[] = {"better", "worse", "same", "not-comparable"};
    return names[static_cast<int>(c)];
}

ProgressSince progressSince(const ReviewRecord& before, const ReviewRecord& now, const FaultRules& rules)
{
    ProgressSince out;
    out.incomparable = whyIncomparable(before, now);
    if (!out.incomparable.empty()) return out;
    for (const ReviewRecord::Value& v : now.values) {
        const ReviewRecord::Value* old = before.value(v.posture, v.phase, v.measure);
        if (!v.band || !old) continue;
        ValueChange c{v.posture,
                      v.phase,
                      v.measure,
                      old->value,
                      v.value,
                      std::hypot(old->u, v.u),
                      Change::NotComparable};
        if (old->view == v.view)
            c.change =
                changeOf(std::abs(v.band->excess(old->value)) - std::abs(v.band->excess(v.value)), c.u);
        out.values.push_back(std::move(c));
    }
    const auto claimedIn = [](const ReviewRecord& r, const std::string& fault) {
        const FaultCount* f = r.fault(fault);
        return f && f->shows > 0;
    };
    for (const FaultRule& rule : rules.all())
        if (claimedIn(before, rule.id) || claimedIn(now, rule.id))
            out.faults.push_back(faultChange(rule, before, now));
    return out;
}

} // namespace jl
