#include "review/teaching.h"
#include <algorithm>
#include <map>
#include <set>

namespace jl
{
namespace
{

constexpr std::size_t kMostCorrections = 3;

bool claimed(const Finding& f)
{
    return f.severity != Severity::Watch;
}

/// Whether a cause's finding could have brought the consequence's about: in the same posture and no later, or
/// in the posture before.
bool precedes(const Finding& cause, const Finding& consequence)
{
    if (cause.posture == consequence.posture) return cause.phase <= consequence.phase;
    return cause.posture + 1 == consequence.posture;
}

/// From a fault to the one that explains it best.
struct Link {
    std::string cause;
    double score = 0;
};
using Links = std::map<std::string, Link>;

std::optional<Link> strongest(const FaultRule& rule, const Review& review)
{
    constexpr double strongestCounts = 1.5;
    std::optional<Link> best;
    for (const FaultRule::Cause& c : rule.causes) {
        double strength = 0;
        int all = 0, explained = 0;
        for (const Finding& consequence : review.findings) {
            if (consequence.fault != rule.id || !claimed(consequence)) continue;
            ++all;
            bool present = false;
            for (const Finding& f : review.findings) {
                if (f.fault != c.fault || !claimed(f) || !precedes(f, consequence)) continue;
                present = true;
                strength = std::max(strength, std::min(strongestCounts, f.strength()));
            }
            explained += present;
        }
        if (!explained) continue;
        const double score = (0.5 + strength) * explained / all * c.prior;
        if (!best || score > best->score) best = Link{c.fault, score};
    }
    return best;
}

/// Cuts the weakest link of every circle.
void cutCircles(Links& links)
{
    for (bool again = true; again;) {
        again = false;
        for (const auto& [start, first] : links) {
            std::vector<std::string> passed{start};
            std::string at = first.cause;
            while (links.contains(at) && std::find(passed.begin(), passed.end(), at) == passed.end()) {
                passed.push_back(at);
                at = links.at(at).cause;
            }
            const auto circle = std::find(passed.begin(), passed.end(), at);
            if (circle == passed.end()) continue;
            links.erase(*std::min_element(circle, passed.end(), [&](const auto& a, const auto& b) {
                return links.at(a).score < links.at(b).score;
            }));
            again = true;
            break;
        }
    }
}

int rungOf(const FaultRule& rule)
{
    if (rule.measure) return static_cast<int>(measureInfo(*rule.measure).rung);
    return static_cast<int>(kRungCount); // timing and order come last
}

/// The phases in which a fault shows, and those in which its measure could be judged by it.
std::pair<int, int> repetition(const std::string& fault, const Review& review, const FaultRules& rules)
{
    const FaultRule* rule = rules.find(fault);
    int could = 0;
    for (const ReviewedPosture& posture : review.postures) {
        if (!rule->measure && !rule->whole) ++could;
        for (const ReviewedPhase& phase : posture.phases) {
            if (phase.values.empty() || !rule->holdsIn(phase.student.stance)) continue;
            if (rule->measure) {
                const JudgedValue& v = phase.values[static_cast<std::size_t>(*rule->measure)];
                could += v.status != Status::Unseen && v.band;
            } else if (rule->whole && !phase.whole.empty()) {
                const JudgedWhole& v = phase.whole[static_cast<std::size_t>(*rule->whole)];
                could += v.status != Status::Unseen && v.band;
            }
        }
    }
    const auto shows = std::count_if(review.findings.begin(), review.findings.end(),
                                     [&](const Finding& f) { return f.fault == fault && claimed(f); });
    return {static_cast<int>(shows), could};
}

bool taughtAt(const LevelStandard& level, const FaultRule& rule)
{
    if (rule.safety) return true;
    if (!rule.measure && !rule.whole) return true; // the order of postures comes before everything
    const std::string_view key =
        rule.measure ? measureInfo(*rule.measure).key : phaseMeasureInfo(*rule.whole).key;
    return std::any_of(level.rungs.begin(), level.rungs.end(),
                       [&](const std::string& prefix) { return key.starts_with(prefix); });
}

/// From the root to what hangs below it, nearest first.
std::vector<std::string> chainFrom(const std::string& root, const Review& review)
{
    std::vector<std::string> chain{root};
    for (std::size_t i = 0; i < chain.size(); ++i)
        for (const Finding& f : review.findings)
            if (claimed(f) && f.becauseOf == chain[i] &&
                std::find(chain.begin(), chain.end(), f.fault) == chain.end())
                chain.push_back(f.fault);
    return chain;
}

Correction correctionOf(const std::string& root, const Review& review, const FaultRules& rules)
{
    constexpr double strongestCounts = 2;
    const FaultRule& rule = *rules.find(root);
    Correction c;
    c.fault = root;
    c.chain = chainFrom(root, review);
    std::tie(c.count, c.outOf) = repetition(root, review, rules);
    bool safety = false;
    double clearest = 0, strength = 0;
    for (const Finding& f : review.findings) {
        if (!claimed(f) || std::find(c.chain.begin(), c.chain.end(), f.fault) == c.chain.end()) continue;
        safety |= f.severity == Severity::Safety;
        if (f.fault != root) continue; // the moment shows what the correction is about
        strength = std::max(strength, std::min(strongestCounts, f.strength()));
        if (f.clarity() <= clearest) continue;
        clearest = f.clarity();
        c.time = f.time;
    }
    c.severity = safety ? Severity::Safety : Severity::Fault;
    const double repeats = c.outOf ? static_cast<double>(c.count) / c.outOf : 0;
    c.score = (safety ? 4 : 0) + strength + repeats + static_cast<double>(c.chain.size() - 1);
    c.title = rule.title;
    c.cue = rule.cue;
    c.reason = rule.reason;
    c.drill = rule.drill;
    c.chainText = chainSentence(c.chain, review, rules);
    return c;
}

} // namespace

void traceCauses(Review& review, const FaultRules& rules)
{
    Links links;
    for (const Finding& f : review.findings)
        if (claimed(f) && !links.contains(f.fault))
            if (const auto link = strongest(*rules.find(f.fault), review)) links.emplace(f.fault, *link);
    cutCircles(links);
    for (Finding& f : review.findings)
        if (const auto link = links.find(f.fault); claimed(f) && link != links.end())
            f.becauseOf = link->second.cause;
}

std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules)
{
    std::string text;
    for (const std::string& fault : chain) {
        const FaultRule& rule = *rules.find(fault);
        text += (text.empty() ? "" : " \u2192 ") + rule.name;
        if (rule.measure || rule.whole) {
            const auto [shows, could] = repetition(fault, review, rules);
            text += " (" + std::to_string(shows) + " of " + std::to_string(could) + ")";
            continue;
        }
        std::string names; // of an order it matters which
        for (const Finding& f : review.findings)
            if (f.fault == fault) names += (names.empty() ? ": " : ", ") + review.postures[f.posture].name;
        text += names;
    }
    return text;
}

std::vector<Correction> chooseCorrections(const Review& review, const FaultRules& rules,
                                          const LevelStandard& level)
{
    std::vector<Correction> all;
    std::set<std::string> roots;
    for (const Finding& f : review.findings) {
        if (!claimed(f) || f.becauseOf || !roots.insert(f.fault).second) continue;
        Correction c = correctionOf(f.fault, review, rules);
        if (c.severity == Severity::Safety || taughtAt(level, *rules.find(f.fault)))
            all.push_back(std::move(c));
    }
    std::stable_sort(all.begin(), all.end(), [&](const Correction& a, const Correction& b) {
        if (a.score != b.score) return a.score > b.score;
        return rungOf(*rules.find(a.fault)) < rungOf(*rules.find(b.fault));
    });
    if (all.size() > kMostCorrections) all.resize(kMostCorrections);
    return all;
}

} // namespace jl
