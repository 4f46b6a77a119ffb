#include "review/teaching.h"
#include "review/evidence.h"
#include <algorithm>
#include <map>
#include <set>

namespace jl
{
namespace
{

constexpr std::size_t kMostCorrections = 3;
constexpr std::size_t kFurther = 4; ///< offered to an instructor who wants one more

bool claimed(const Finding& f)
{
    return f.severity != Severity::Watch;
}

/// Where the feet stand is decided when they touch, and how high a leg goes when it is lifted, though both
/// are measured on arrival.
bool isDecidedBefore(const Finding& f)
{
    return f.measure == Measure::StanceLength || f.measure == Measure::StanceWidth ||
           f.measure == Measure::HipLeadFlexion;
}

/// Whether a cause's finding could have brought the consequence's about: in the same posture and no later, or
/// in the posture before.
bool precedes(const Finding& cause, const Finding& consequence)
{
    if (cause.posture == consequence.posture)
        return cause.phase <= consequence.phase || isDecidedBefore(cause);
    return cause.posture + 1 == consequence.posture;
}

/// From a fault to the one that explains it best.
struct Link {
    std::string cause;
    double score = 0;
};
using Links = std::map<std::string, Link>;

/// The causes that are thinkable of a fault: the rule's own, and those an instructor has filed it under
/// before.
std::vector<std::string> thinkable(const FaultRule& rule, const TeachingMemory& memory)
{
    std::vector<std::string> causes;
    for (const FaultRule::Cause& c : rule.causes)
        causes.push_back(c.fault);
    for (const auto& [link, times] : memory.filed)
        if (link.first == rule.id && !link.second.empty() &&
            std::find(causes.begin(), causes.end(), link.second) == causes.end())
            causes.push_back(link.second);
    return causes;
}

std::optional<Link> strongest(const FaultRule& rule, const Review& review, const TeachingMemory& memory)
{
    constexpr double strongestCounts = 1.5;
    std::optional<Link> best;
    for (const std::string& cause : thinkable(rule, memory)) {
        double strength = 0;
        int all = 0, explained = 0;
        for (const Finding& consequence : review.findings) {
            if (consequence.fault != rule.id || !claimed(consequence)) continue;
            ++all;
            bool present = false;
            for (const Finding& f : review.findings) {
                if (f.fault != cause || !claimed(f) || !precedes(f, consequence)) continue;
                present = true;
                strength = std::max(strength, std::min(strongestCounts, f.strength()));
            }
            explained += present;
        }
        if (!explained) continue;
        const double score = (0.5 + strength) * explained / all * memory.prior(rule, cause);
        if (!best || score > best->score) best = Link{cause, score};
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

/// The count of a fault; nothing of nothing where it could not be judged.
FaultCount countOf(const FaultRule& rule, const Review& review)
{
    FaultCount count{rule.id, Severity::Watch, 0, 0};
    if (rule.measure || rule.whole)
        count.could = static_cast<int>(phaseEvidence(review, rule).size());
    else
        count.could = static_cast<int>(
            std::count_if(review.postures.begin(), review.postures.end(),
                          [](const ReviewedPosture& p) { return p.status != PostureStatus::NotFilmed; }));
    for (const Finding& f : review.findings) {
        if (f.fault != rule.id) continue;
        count.severity = std::max(count.severity, f.severity);
        count.shows += claimed(f);
    }
    return count;
}

bool taughtAt(const LevelStandard& level, const FaultRule& rule)
{
    if (rule.safety) return true;
    if (!rule.measure && !rule.whole) return true; // the order of postures comes before everything
    const std::string_view key =
        rule.measure ? measureInfo(*rule.measure).key : phaseMeasureInfo(*rule.whole).key;
    return level.teaches(key);
}

/// How many postures of the form a level knows: up to the first of the posture that ends its section.
std::size_t knownPostures(const Review& review, const LevelStandard& level)
{
    const auto section = level.sections.find(review.form);
    if (section == level.sections.end()) return review.postures.size();
    const auto last = std::find_if(review.postures.begin(), review.postures.end(),
                                   [&](const ReviewedPosture& p) { return p.id == section->second; });
    return std::min(review.postures.size(), static_cast<std::size_t>(last - review.postures.begin()) + 1);
}

bool showsBefore(const Review& review, const std::string& fault, std::size_t posture)
{
    return std::any_of(review.findings.begin(), review.findings.end(), [&](const Finding& f) {
        return f.fault == fault && claimed(f) && f.posture < posture;
    });
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

/// Why a correction is among those to teach now: what its score is made of, in words.
std::string whyNow(const Correction& c, const FaultMemory& before, bool onlyTogether)
{
    std::vector<std::string> reasons;
    if (c.severity == Severity::Safety) reasons.emplace_back("safety comes first");
    const std::size_t explained = c.chain.size() - 1;
    if (explained == 1) reasons.emplace_back("it explains another one");
    if (explained > 1) reasons.push_back("it explains " + std::to_string(explained) + " others");
    if (c.outOf > 1 && 2 * c.count >= c.outOf)
        reasons.push_back("it shows " + std::to_string(c.count) + " times of " + std::to_string(c.outOf));
    if (before.lessons > 0)
        reasons.push_back(before.lessons == 1
                              ? "it was there last time"
                              : "it was there the last " + std::to_string(before.lessons) + " times");
    if (before.returned) reasons.emplace_back("it was put off and is due now");
    if (onlyTogether) reasons.emplace_back("no single moment shows it surely, but all of them together do");
    if (reasons.empty()) reasons.emplace_back("it stands out most at this level");
    std::string text;
    for (const std::string& r : reasons)
        text += (text.empty() ? "" : "; ") + r;
    return text;
}

Correction correctionOf(const std::string& root, const Review& review, const FaultRules& rules,
                        const FaultMemory& before)
{
    constexpr double strongestCounts = 2, lessonsCount = 2;
    const FaultRule& rule = *rules.find(root);
    Correction c;
    c.fault = root;
    c.chain = chainFrom(root, review);
    const FaultCount count = countOf(rule, review);
    c.count = count.shows;
    c.outOf = count.could;
    bool safety = false, onlyTogether = true;
    double clearest = 0, strength = 0;
    FaultWords words = rule.words;
    for (const Finding& f : review.findings) {
        if (!claimed(f) || std::find(c.chain.begin(), c.chain.end(), f.fault) == c.chain.end()) continue;
        safety |= f.severity == Severity::Safety;
        if (f.fault != root) continue; // the moment shows what the correction is about
        onlyTogether &= f.together;
        strength = std::max(strength, std::min(strongestCounts, f.strength()));
        if (f.clarity() <= clearest) continue;
        clearest = f.clarity();
        c.time = f.time;
        words = wordsOf(rule, review, f);
    }
    c.severity = safety ? Severity::Safety : Severity::Fault;
    const double repeats = c.outOf ? static_cast<double>(c.count) / c.outOf : 0;
    c.score = (safety ? 4 : 0) + strength + repeats + std::min(lessonsCount, 0.5 * before.lessons) +
              static_cast<double>(c.chain.size() - 1);
    c.title = words.title;
    c.cue = words.cue;
    c.reason = words.reason;
    c.drill = words.drill;
    c.chainText = chainSentence(c.chain, review, rules);
    c.whyNow = whyNow(c, before, onlyTogether);
    return c;
}

} // namespace

std::vector<FaultCount> countFaults(const Review& review, const FaultRules& rules)
{
    std::vector<FaultCount> counts;
    for (const FaultRule& rule : rules.all())
        if (const FaultCount count = countOf(rule, review); count.could > 0) counts.push_back(count);
    return counts;
}

void traceCauses(Review& review, const FaultRules& rules, const TeachingMemory& memory)
{
    constexpr double chosen = 1e3; // the instructor's word is stronger than any evidence
    std::set<std::string> found;
    for (const Finding& f : review.findings)
        if (claimed(f)) found.insert(f.fault);
    Links links;
    for (const std::string& fault : found) {
        const auto hung = memory.hung.find(fault);
        if (hung == memory.hung.end()) {
            if (const auto link = strongest(*rules.find(fault), review, memory)) links.emplace(fault, *link);
        } else if (found.contains(hung->second) && hung->second != fault) {
            links.emplace(fault, Link{hung->second, chosen});
        }
    }
    cutCircles(links);
    for (Finding& f : review.findings) {
        const auto link = links.find(f.fault);
        f.becauseOf.reset();
        if (claimed(f) && link != links.end()) f.becauseOf = link->second.cause;
    }
}

std::string faultName(const FaultRule& rule, const Review& review)
{
    const Finding* clearest = nullptr;
    for (const Finding& f : review.findings)
        if (f.fault == rule.id && (!clearest || std::pair(f.severity, f.clarity()) >
                                                    std::pair(clearest->severity, clearest->clarity())))
            clearest = &f;
    return clearest ? wordsOf(rule, review, *clearest).name : rule.plainName();
}

std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules)
{
    std::string text;
    for (const std::string& fault : chain) {
        const FaultRule& rule = *rules.find(fault);
        text += (text.empty() ? "" : " \u2192 ") + faultName(rule, review);
        if (rule.measure || rule.whole) {
            const FaultCount count = countOf(rule, review);
            text += " (" + std::to_string(count.shows) + " of " + std::to_string(count.could) + ")";
            continue;
        }
        std::string names; // of an order it matters which
        for (const Finding& f : review.findings)
            if (f.fault == fault) names += (names.empty() ? ": " : ", ") + review.postures[f.posture].name;
        text += names;
    }
    return text;
}

ChosenCorrections chooseCorrections(const Review& review, const FaultRules& rules, const LevelStandard& level,
                                    const TeachingMemory& memory)
{
    const std::size_t known = knownPostures(review, level);
    std::vector<Correction> all;
    std::set<std::string> roots;
    for (const Finding& f : review.findings) {
        if (!claimed(f) || f.becauseOf || !roots.insert(f.fault).second) continue;
        const FaultMemory& before = memory.of(f.fault);
        Correction c = correctionOf(f.fault, review, rules, before);
        const bool safety = c.severity == Severity::Safety;
        if (safety ||
            (showsBefore(review, f.fault, known) && taughtAt(level, *rules.find(f.fault)) && !before.parked))
            all.push_back(std::move(c));
    }
    std::stable_sort(all.begin(), all.end(), [&](const Correction& a, const Correction& b) {
        if (a.score != b.score) return a.score > b.score;
        return rungOf(*rules.find(a.fault)) < rungOf(*rules.find(b.fault));
    });
    ChosenCorrections chosen;
    for (std::size_t i = 0; i < std::min(all.size(), kMostCorrections + kFurther); ++i)
        (i < kMostCorrections ? chosen.teach : chosen.further).push_back(std::move(all[i]));
    return chosen;
}

void addOwnFindings(Review& review, const std::vector<OwnFinding>& own, const TeachingMemory& memory)
{
    for (const OwnFinding& o : own) {
        const std::string id = o.fault();
        auto same = std::find_if(review.counts.begin(), review.counts.end(),
                                 [&](const FaultCount& f) { return f.fault == id; });
        if (same != review.counts.end()) { // seen at another moment too
            ++same->shows;
            ++same->could;
            continue;
        }
        review.counts.push_back({id, Severity::Fault, 1, 1});
        Correction c;
        c.fault = id;
        c.chain = {id};
        c.count = c.outOf = 1;
        c.severity = Severity::Fault;
        c.time = o.time;
        c.title = o.title;
        c.cue = o.cue;
        c.drill = o.drill;
        c.whyNow = "you saw it";
        if (const int lessons = memory.of(id).lessons; lessons > 0)
            c.whyNow += lessons == 1 ? "; it was there last time"
                                     : "; it was there the last " + std::to_string(lessons) + " times";
        review.teach.push_back(std::move(c));
    }
}

} // namespace jl
