#include "lab/judgement.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

double quantile(const std::vector<double>& sorted, double share)
{
    if (sorted.empty()) return 0;
    return sorted[static_cast<std::size_t>(std::lround(share * static_cast<double>(sorted.size() - 1)))];
}

double shareWithin(const std::vector<double>& sorted, double limit)
{
    if (sorted.empty()) return 1;
    const auto within = std::upper_bound(sorted.begin(), sorted.end(), limit) - sorted.begin();
    return static_cast<double>(within) / static_cast<double>(sorted.size());
}

nlohmann::ordered_json json(const Tally& t)
{
    return {{"share", t.share()}, {"good", t.good}, {"of", t.all}};
}

std::string line(const char* what, const Tally& t)
{
    char text[120];
    std::snprintf(text, sizeof text, "%-44s %6.1f %%  %d of %d\n", what, 100 * t.share(), t.good, t.all);
    return text;
}

} // namespace

std::string judgementJson(const JudgementReport& r)
{
    nlohmann::ordered_json j{{"cases", r.cases},
                             {"failed", r.failed},
                             {"recall", r.recall.share()},
                             {"recall_beyond_uncertainty", r.recallBeyondUncertainty.share()},
                             {"precision", r.precision.share()},
                             {"safety_precision", r.safetyPrecision.share()},
                             {"root_cause_first", r.rootCauseFirst.share()},
                             {"key_moment_error_s",
                              {{"median", quantile(r.keyMomentErrors, 0.5)},
                               {"p95", quantile(r.keyMomentErrors, 0.95)},
                               {"within_0.15", shareWithin(r.keyMomentErrors, 0.15)},
                               {"n", r.keyMomentErrors.size()}}},
                             {"phases_found", json(r.phasesFound)},
                             {"sequence_found", json(r.sequence)},
                             {"sequence_false", {{"claims", r.falseSequence}, {"of_cases", r.orderKept}}},
                             {"clean",
                              {{"cases", r.cleanCases},
                               {"postures", r.cleanPostures},
                               {"false_faults", r.cleanFaults},
                               {"false_safety", r.cleanSafety}}}};
    j["counts"] = {{"recall", json(r.recall)},
                   {"recall_beyond_uncertainty", json(r.recallBeyondUncertainty)},
                   {"precision", json(r.precision)},
                   {"safety_precision", json(r.safetyPrecision)},
                   {"root_cause_first", json(r.rootCauseFirst)}};
    for (const auto& [id, t] : r.recallOf)
        j["by_fault"][id]["recall"] = json(t);
    for (const auto& [id, t] : r.precisionOf)
        j["by_fault"][id]["precision"] = json(t);
    for (const auto& [in, t] : r.recallIn)
        j["by_stance_and_family"][in]["recall"] = json(t);
    for (const auto& [in, t] : r.precisionIn)
        j["by_stance_and_family"][in]["precision"] = json(t);
    return j.dump(1) + "\n";
}

namespace
{

std::string table(const char* what, const std::map<std::string, Tally>& recall,
                  const std::map<std::string, Tally>& precision)
{
    char text[200];
    std::snprintf(text, sizeof text, "\n%-24s found of visible   right of claimed\n", what);
    std::string out = text;
    std::map<std::string, std::pair<Tally, Tally>> all;
    for (const auto& [id, t] : recall)
        all[id].first = t;
    for (const auto& [id, t] : precision)
        all[id].second = t;
    for (const auto& [id, t] : all) {
        std::snprintf(text, sizeof text, "%-24s %6d of %-6d %8d of %d\n", id.c_str(), t.first.good,
                      t.first.all, t.second.good, t.second.all);
        out += text;
    }
    return out;
}

} // namespace

std::string judgementText(const JudgementReport& r)
{
    char text[200];
    std::snprintf(text, sizeof text, "%d cases, %d not read\n", r.cases, r.failed);
    std::string out = text;
    std::snprintf(text, sizeof text,
                  "key moments: median %.3f s, 95th percentile %.3f s, %.1f %% within 0.15 s, n %zu\n",
                  quantile(r.keyMomentErrors, 0.5), quantile(r.keyMomentErrors, 0.95),
                  100 * shareWithin(r.keyMomentErrors, 0.15), r.keyMomentErrors.size());
    out += text;
    out += line("phases shown that were found", r.phasesFound);
    out += line("departures from the order found", r.sequence);
    std::snprintf(text, sizeof text, "%-44s %d in %d cases\n", "departures claimed where there were none",
                  r.falseSequence, r.orderKept);
    out += text;
    out += line("recall of visible faults", r.recall);
    out += line("of these beyond twice the uncertainty", r.recallBeyondUncertainty);
    out += line("precision", r.precision);
    out += line("precision of safety faults", r.safetyPrecision);
    std::snprintf(text, sizeof text, "%-44s %d in %d postures; safety: %d in %d clips\n",
                  "false faults in clean performances", r.cleanFaults, r.cleanPostures, r.cleanSafety,
                  r.cleanCases);
    out += text;
    out += line("root cause named first", r.rootCauseFirst);
    out += table("stance or family", r.recallIn, r.precisionIn);
    out += table("fault", r.recallOf, r.precisionOf);
    return out;
}

} // namespace jl
