#include "review/rule_coverage.h"
#include "base/json_file.h"
#include <algorithm>
#include <set>

namespace jl
{
namespace
{

constexpr std::string_view kFamilies[]{"feet", "weight", "knees", "hips", "trunk", "arms", "head", "timing"};
constexpr std::size_t kTiming = kRungCount; ///< measures of whole phases come last

struct Row {
    std::string_view key, name;
    std::size_t family;
};

std::vector<Row> allRows()
{
    std::vector<Row> rows;
    for (const MeasureInfo& m : allMeasures())
        rows.push_back({m.key, m.name, static_cast<std::size_t>(m.rung)});
    for (const PhaseMeasureInfo& m : allPhaseMeasures())
        rows.push_back({m.key, m.name, kTiming});
    return rows;
}

std::string_view keyOf(const FaultRule& rule)
{
    if (rule.measure) return measureInfo(*rule.measure).key;
    return rule.whole ? phaseMeasureInfo(*rule.whole).key : std::string_view{};
}

std::string listed(const std::set<std::string>& words, const char* between)
{
    std::string text;
    for (const std::string& w : words)
        text += (text.empty() ? "" : between) + w;
    return text;
}

} // namespace

std::string_view familyOf(const FaultRule& rule)
{
    if (rule.measure) return kFamilies[static_cast<std::size_t>(measureInfo(*rule.measure).rung)];
    return rule.whole ? kFamilies[kTiming] : "order";
}

bool Unjudged::covers(std::string_view measure, StanceKind stance, bool isAbove) const
{
    return (isAbove ? above : below) && (stances.empty() || stances.contains(stance)) &&
           std::find(measures.begin(), measures.end(), measure) != measures.end();
}

Result<std::vector<Unjudged>> loadUnjudged(const std::filesystem::path& folder)
{
    const auto file = folder / "unjudged.json";
    const auto json = readJson(file);
    if (!json) return json.error();
    std::vector<Unjudged> all;
    try {
        for (const auto& j : *json) {
            Unjudged u;
            u.measures = j.at("measures").get<std::vector<std::string>>();
            u.above = j.at("edge") != "low";
            u.below = j.at("edge") != "high";
            for (const std::string name : j.value("stances", nlohmann::json::array()))
                if (const auto stance = stanceFromName(name)) u.stances.insert(*stance);
            u.reason = j.at("reason");
            all.push_back(std::move(u));
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("a row lacks something: ") + e.what(), file.string(),
                     "Take the shipped file again."};
    }
    return all;
}

const FaultRule* ruleFor(const FaultRules& rules, std::string_view measure, StanceKind stance,
                         const SchoolLine& school, bool above)
{
    const auto found = std::find_if(rules.all().begin(), rules.all().end(), [&](const FaultRule& r) {
        return !r.ofLimits && keyOf(r) == measure && r.holdsIn(stance) && r.askedBy(school) &&
               r.concerns(above ? 1 : -1);
    });
    return found == rules.all().end() ? nullptr : &*found;
}

std::string coverageTable(const Standards& standards, const FaultRules& rules,
                          const std::vector<Unjudged>& unjudged)
{
    std::string text = "| stance |";
    for (std::string_view family : kFamilies)
        text += " " + std::string(family) + " |";
    text += "\n| --- |";
    for (std::size_t f = 0; f < std::size(kFamilies); ++f)
        text += " --- |";
    text += "\n";
    const auto rows = allRows();
    const auto rulesIn = [&](const Row& row, StanceKind stance, std::set<std::string>& ids) {
        for (const SchoolStandard& school : standards.schools)
            for (bool above : {true, false})
                if (const FaultRule* r = ruleFor(rules, row.key, stance, school.line, above))
                    ids.insert(r->id);
    };
    for (std::size_t s = 0; s < kStanceKindCount; ++s) {
        const auto stance = static_cast<StanceKind>(s);
        text += "| " + std::string(stanceName(stance)) + " |";
        for (std::size_t f = 0; f < std::size(kFamilies); ++f) {
            std::set<std::string> ids;
            for (const Row& row : rows)
                if (row.family == f) rulesIn(row, stance, ids);
            text += ids.empty() ? " - |" : " " + std::to_string(ids.size()) + " |";
        }
        text += "\n";
    }
    text += "\n| measure | rules | where nothing is said, and why |\n| --- | --- | --- |\n";
    for (const Row& row : rows) {
        std::set<std::string> ids, reasons;
        for (std::size_t s = 0; s < kStanceKindCount; ++s)
            rulesIn(row, static_cast<StanceKind>(s), ids);
        for (const Unjudged& u : unjudged)
            if (std::find(u.measures.begin(), u.measures.end(), row.key) != u.measures.end())
                reasons.insert(u.reason);
        text += "| `" + std::string(row.key) + "` | " + (ids.empty() ? "-" : listed(ids, ", ")) + " | " +
                listed(reasons, " ") + " |\n";
    }
    return text;
}

} // namespace jl
