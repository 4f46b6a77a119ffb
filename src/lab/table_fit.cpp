#include "lab/table_fit.h"
#include "base/json_file.h"
#include "base/median.h"
#include "lab/accuracy_report.h"
#include "lab/spread_fit.h"
#include "measure/fused_value.h"
#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

constexpr double kDigits = 1e8; ///< areas of sway are a few square millimetres

double rounded(double value)
{
    return std::round(value * kDigits) / kDigits;
}

/// For what holds errors of a whole number, such as one pause: to be a hair too narrow would miss them.
double roundedUp(double value)
{
    return std::ceil(value * kDigits) / kDigits;
}

constexpr std::size_t kFewest = 30; ///< values from which a row is fitted
constexpr std::size_t kOwn = 150; ///< values from which two cameras' views may be surer than any two cameras
constexpr std::size_t kFewestAgain = kFewestToTell; ///< values from which a row is fitted again

/// Those of two cameras also taken together whatever they see, before all others: a row for views of which
/// there are too few.
std::vector<ErrorGroup> withAnyPair(std::vector<ErrorGroup> groups)
{
    const std::string any(viewName(View::Both));
    std::map<std::string, ErrorGroup> together;
    for (const ErrorGroup& g : groups) {
        if (!g.view.starts_with(any)) continue;
        ErrorGroup& all = together[g.key];
        all.view = any;
        all.key = g.key;
        all.error.insert(all.error.end(), g.error.begin(), g.error.end());
        all.u.insert(all.u.end(), g.u.begin(), g.u.end());
        all.certain.insert(all.certain.end(), g.certain.begin(), g.certain.end());
        all.unrated.insert(all.unrated.end(), g.unrated.begin(), g.unrated.end());
    }
    std::erase_if(groups, [&](const ErrorGroup& g) { return g.view == any; });
    std::vector<ErrorGroup> out;
    out.reserve(together.size() + groups.size());
    for (auto& [key, g] : together)
        out.push_back(std::move(g));
    std::move(groups.begin(), groups.end(), std::back_inserter(out));
    return out;
}

/// Which values are certain, where those are enough to say how many of them may be far off; otherwise none.
std::vector<bool> certainWhereMany(const ErrorGroup& g)
{
    const auto many = std::ranges::count(g.certain, true) >= static_cast<std::ptrdiff_t>(kFewestAgain);
    return many ? g.certain : std::vector<bool>(g.certain.size(), false);
}

/// Whether the row would be as wanted with another entry than that with which it was measured.
bool holds(ErrorGroup g, const AccuracyTable::Entry& before, const AccuracyTable::Entry& entry)
{
    for (double& u : g.u)
        u = entry.uncertainty((u * u - before.floor * before.floor) / (before.scale * before.scale));
    return isAsWanted(accuracyRow(g));
}

} // namespace

std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes)
{
    const std::string any(viewName(View::Both));
    std::map<std::string, AccuracyTable::Entry> anyPair; // by measure
    nlohmann::ordered_json table;
    for (ErrorGroup& g : withAnyPair(errorGroups(outcomes))) {
        std::vector<double> errors = std::move(g.error), variance;
        for (double u : g.u) // the pressure in the soles comes on top and is no matter of this table
            variance.push_back(u * u - (g.key == "weight.lead" ? kPressureSpread * kPressureSpread : 0));
        errors.insert(errors.end(), g.unrated.begin(), g.unrated.end());
        variance.resize(errors.size(), 0);
        if (errors.size() < kFewest) continue; // too few to say
        const double bias = rounded(median(errors));
        for (double& e : errors)
            e -= bias;
        AccuracyTable::Entry fitted = fittedSpread(errors, variance);
        if (g.view == any) {
            anyPair[g.key] = fitted;
        } else if (g.view.starts_with(any) && errors.size() < kOwn) {
            fitted.floor = std::max(fitted.floor, anyPair[g.key].floor);
            fitted.scale = std::max(fitted.scale, anyPair[g.key].scale);
        }
        table[g.view][g.key] = {{"bias", bias}, {"floor", roundedUp(fitted.floor)}};
        if (fitted.scale < 1) table[g.view][g.key]["scale"] = rounded(fitted.scale);
    }
    return table.dump(1) + "\n";
}

Result<std::string> refitAccuracy(const std::filesystem::path& file, const AccuracyTable& table,
                                  const std::vector<CaseOutcome>& outcomes)
{
    const auto rows = readJson(file);
    if (!rows) return rows.error();
    nlohmann::ordered_json out = *rows;
    const std::string any(viewName(View::Both));
    for (ErrorGroup& g : withAnyPair(errorGroups(outcomes))) {
        const bool ofMoment = measureFromKey(g.key).has_value();
        auto before = table.entry(g.view, g.key);
        if (!before && ofMoment) before.emplace(); // read by geometry alone until now
        if (g.error.size() < kFewestAgain || !before || isAsWanted(accuracyRow(g))) continue;
        const auto ofPhase = phaseMeasureFromKey(g.key);
        const bool isOfOne = ofPhase && !(g.view.starts_with(any) && isFused(*ofPhase));
        const bool hasBias = ofMoment || (ofPhase && phaseMeasureInfo(*ofPhase).isSigned);
        const double off = hasBias ? median(g.error) : 0;
        for (double& e : g.error)
            e -= off;
        AccuracyTable::Entry again =
            isOfOne ? refloored(*before, g.error, g.u) : respread(*before, g.error, g.u, certainWhereMany(g));
        if (isOfOne && !holds(g, *before, again))
            again = respread(*before, g.error, g.u, certainWhereMany(g));
        nlohmann::ordered_json& row = out[g.view][g.key];
        row = {{"bias", rounded(before->bias + off)}, {"floor", roundedUp(again.floor)}};
        if (again.scale < 1) row["scale"] = rounded(again.scale);
    }
    return out.dump(1) + "\n";
}

} // namespace jl
