#include "review/teaching.h"
#include <algorithm>
#include <map>
#include <set>

namespace jl
{
namespace
{

constexpr std::size_t kMostCorrections = 3;

bool earlierOrSame(const Finding& a, const Finding& b)
{
    return std::pair(a.posture, a.phase) <= std::pair(b.posture, b.phase);
}

/// The phases in which a fault shows, and those in which its measure could be judged by it.
std::pair<int, int> repetition(const std::string& fault, const Review& review, const FaultRules& rules)
{
    const FaultRule* rule = rules.find(fault);
    int could = 0;
    for (const ReviewedPosture& posture : review.postures) {
        for (const ReviewedPhase& phase : posture.phases) {
            if (phase.values.empty() || std::find(rule->stances.begin(), rule->stances.end(),
                                                  phase.student.stance) == rule->stances.end())
                continue;
            const JudgedValue& v = phase.values[static_cast<std::size_t>(rule->measure)];
            could += v.status != Status::Unseen && v.band;
        }
    }
    const auto shows = std::count_if(review.findings.begin(), review.findings.end(), [&](const Finding& f) {
        return f.fault == fault && f.severity != Severity::Watch;
    });
    return {static_cast<int>(shows), could};
}

bool taughtAt(const LevelStandard& level, const FaultRule& rule)
{
    if (rule.safety) return true;
    const std::string_view key = measureInfo(rule.measure).key;
    return std::any_of(level.rungs.begin(), level.rungs.end(),
                       [&](const std::string& prefix) { return key.starts_with(prefix); });
}

} // namespace

void traceCauses(Review& review, const FaultRules& rules)
{
    for (Finding& consequence : review.findings) {
        if (consequence.severity == Severity::Watch) continue;
        for (const std::string& cause : rules.find(consequence.fault)->causes) {
            const bool present =
                std::any_of(review.findings.begin(), review.findings.end(), [&](const Finding& f) {
                    return f.fault == cause && f.severity != Severity::Watch && earlierOrSame(f, consequence);
                });
            if (!present) continue;
            consequence.becauseOf = cause;
            break;
        }
    }
}

std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules)
{
    std::string text;
    for (const std::string& fault : chain) {
        const auto [shows, could] = repetition(fault, review, rules);
        text += (text.empty() ? "" : " \u2192 ") + rules.find(fault)->name + " (" + std::to_string(shows) +
                " of " + std::to_string(could) + ")";
    }
    return text;
}

std::vector<Correction> chooseCorrections(const Review& review, const FaultRules& rules,
                                          const LevelStandard& level)
{
    // One entry a root, with everything that hangs below it.
    std::map<std::string, std::vector<const Finding*>> byRoot;
    std::map<std::string, std::set<std::string>> below;
    for (const Finding& f : review.findings) {
        if (f.severity == Severity::Watch) continue;
        std::string root = f.fault;
        std::set<std::string> passed;
        for (const Finding* at = &f; at && at->becauseOf && passed.insert(root).second;) {
            root = *at->becauseOf;
            const auto up =
                std::find_if(review.findings.begin(), review.findings.end(), [&](const Finding& g) {
                    return g.fault == root && g.severity != Severity::Watch;
                });
            at = up == review.findings.end() ? nullptr : &*up;
        }
        byRoot[root].push_back(&f);
        if (f.fault != root) below[root].insert(f.fault);
    }
    std::vector<Correction> all;
    for (const auto& [root, findings] : byRoot) {
        const FaultRule& rule = *rules.find(root);
        const bool safety = std::any_of(findings.begin(), findings.end(),
                                        [](const Finding* f) { return f->severity == Severity::Safety; });
        if (!safety && !taughtAt(level, rule)) continue;
        Correction c;
        c.fault = root;
        c.chain = {root};
        c.chain.insert(c.chain.end(), below[root].begin(), below[root].end());
        std::tie(c.count, c.outOf) = repetition(root, review, rules);
        c.severity = safety ? Severity::Safety : Severity::Fault;
        double clearest = 0;
        for (const Finding* f : findings) {
            if (f->fault != root) continue; // the moment shows what the correction is about
            const double clear = std::abs(f->band.excess(f->value.value)) / std::max(1e-9, f->value.u);
            if (clear <= clearest) continue;
            clearest = clear;
            c.time = f->time;
        }
        const double repeats = c.outOf ? static_cast<double>(c.count) / c.outOf : 0;
        c.score = (safety ? 4 : 0) + 1 + repeats + static_cast<double>(below[root].size());
        c.title = rule.title;
        c.cue = rule.cue;
        c.reason = rule.reason;
        c.drill = rule.drill;
        c.chainText = chainSentence(c.chain, review, rules);
        all.push_back(std::move(c));
    }
    std::stable_sort(all.begin(), all.end(), [&](const Correction& a, const Correction& b) {
        if (a.score != b.score) return a.score > b.score;
        return measureInfo(rules.find(a.fault)->measure).rung <
               measureInfo(rules.find(b.fault)->measure).rung;
    });
    if (all.size() > kMostCorrections) all.resize(kMostCorrections);
    return all;
}

} // namespace jl
