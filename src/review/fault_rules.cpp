#include "review/fault_rules.h"
#include "base/json_file.h"
#include "standards/schema_check.h"
#include <algorithm>
#include <cmath>

namespace jl
{

std::string_view severityName(Severity s)
{
    return s == Severity::Watch ? "watch" : s == Severity::Fault ? "fault" : "safety";
}

const FaultRule* FaultRules::find(const std::string& id) const
{
    const auto found =
        std::find_if(m_rules.begin(), m_rules.end(), [&](const FaultRule& r) { return r.id == id; });
    return found == m_rules.end() ? nullptr : &*found;
}

bool FaultRule::holdsIn(StanceKind stance) const
{
    return stances.empty() || stances.contains(stance);
}

bool FaultRule::askedBy(const SchoolLine& school) const
{
    return (schools.empty() || school.includes(schools)) && !school.includes(notSchools);
}

double FaultRule::oriented(double excess, const Band& band, Side lead) const
{
    switch (edge) {
    case Edge::Lead:
    case Edge::Rear:
        return lead == Side::Right ? excess : -excess;
    case Edge::Short:
    case Edge::Over:
        return band.centre() >= 0 ? excess : -excess;
    default:
        return excess;
    }
}

bool FaultRule::concerns(double orientedExcess) const
{
    switch (edge) {
    case Edge::Low:
    case Edge::Rear:
    case Edge::Short:
        return orientedExcess < 0;
    case Edge::Both:
        return orientedExcess != 0;
    default:
        return orientedExcess > 0;
    }
}

namespace
{

template <class M>
std::optional<Band> bandOf(const std::vector<FaultRule>& rules, std::optional<M> FaultRule::*of, M m,
                           StanceKind stance, const SchoolLine& school, double reference)
{
    std::optional<Band> band;
    for (const FaultRule& r : rules) {
        if (r.*of != m || r.tolerance <= 0 || !r.holdsIn(stance) || !r.askedBy(school)) continue;
        if (std::abs(reference) < r.least) continue;
        const double allowed = r.toleranceIsShare ? r.tolerance * std::abs(reference) : r.tolerance;
        if (!band) band = Band{reference - allowed, reference + allowed, allowed};
        // A posture in which the reference itself goes beyond the limit asks for it, but never of a knee.
        const auto edge = [&](double sign) {
            if (!r.limit) return reference + sign * allowed;
            return r.safety ? *r.limit : sign * std::max(sign * *r.limit, sign * reference + 0.5 * allowed);
        };
        if (r.concerns(1)) band->high = edge(1);
        if (r.concerns(-1)) band->low = edge(-1);
        if (band->low <= band->high) continue;
        // The reference itself goes beyond a limit that spares knees: what is allowed lies on its other side.
        if (r.concerns(-1))
            band->high = band->low + 2 * allowed;
        else
            band->low = band->high - 2 * allowed;
    }
    return band;
}

constexpr std::pair<std::string_view, Edge> kEdges[]{
    {"low", Edge::Low},   {"high", Edge::High},   {"both", Edge::Both}, {"lead", Edge::Lead},
    {"rear", Edge::Rear}, {"short", Edge::Short}, {"over", Edge::Over}};

FaultWords wordsFrom(const nlohmann::json& j)
{
    return {j.value("name", ""), j.value("title", ""), j.value("cue", ""), j.value("reason", ""),
            j.value("drill", "")};
}

/// The stances of a row; an error names the first that does not exist.
Result<StanceSet> stancesFrom(const nlohmann::json& j, const std::string& fault, const std::string& file)
{
    StanceSet stances;
    for (const std::string name : j.value("stances", nlohmann::json::array())) {
        const auto stance = stanceFromName(name);
        if (!stance)
            return Error{Error::Kind::BadInput,
                         "the fault \"" + fault + "\" names an unknown stance, \"" + name + "\"", file,
                         "Take the shipped file again."};
        stances.insert(*stance);
    }
    return stances;
}

Result<Done> readTexts(const nlohmann::json& j, FaultRule& rule, const std::string& file)
{
    for (const auto& row : j.value("texts", nlohmann::json::array())) {
        FaultText text;
        if (row.contains("edge")) text.above = row.at("edge") == "high";
        text.postures = row.value("postures", text.postures);
        text.schools = row.value("schools", text.schools);
        text.levels = row.value("levels", text.levels);
        const auto stances = stancesFrom(row, rule.id, file);
        if (!stances) return stances.error();
        text.stances = *stances;
        text.words = wordsFrom(row);
        rule.texts.push_back(std::move(text));
    }
    return Done{};
}

/// What the rule is about: a measure of a moment or of a phase, and on which side of its band.
Result<Done> readMeasure(const nlohmann::json& j, FaultRule& rule, const std::string& file)
{
    const auto key = j.value("measure", std::string{});
    if (key.empty()) return Done{};
    rule.measure = measureFromKey(key);
    rule.whole = phaseMeasureFromKey(key);
    if (!rule.measure && !rule.whole)
        return Error{Error::Kind::BadInput, "the fault \"" + rule.id + "\" names an unknown measure", file,
                     "Take the shipped file again."};
    const std::string edge = j.at("edge");
    for (const auto& [name, value] : kEdges)
        if (name == edge) rule.edge = value;
    return Done{};
}

Result<FaultRule> parsed(const nlohmann::json& j, const std::string& file)
{
    FaultRule r;
    r.id = j.at("id");
    for (const char* needed : {"name", "title", "cue", "reason", "drill"})
        (void)j.at(needed); // throws what read() reports
    r.words = wordsFrom(j);
    if (const auto measure = readMeasure(j, r, file); !measure) return measure.error();
    r.margin = j.value("margin", j.value("margin_share", 0.0));
    r.marginIsShare = j.contains("margin_share");
    r.doubt = j.value("doubt", 1.0);
    r.tolerance = j.value("tolerance", j.value("share", 0.0));
    r.toleranceIsShare = j.contains("share");
    r.least = j.value("least", 0.0);
    if (j.contains("limit")) r.limit = j.at("limit").get<double>();
    r.safety = j.value("safety", false);
    r.ofLimits = j.value("of_limits", false);
    r.safetyIfUnsteady = j.value("safety_if_unsteady", false);
    const auto stances = stancesFrom(j, r.id, file);
    if (!stances) return stances.error();
    r.stances = *stances;
    r.schools = j.value("schools", std::vector<std::string>{});
    r.notSchools = j.value("not_schools", std::vector<std::string>{});
    for (const auto& cause : j.value("causes", nlohmann::json::array()))
        r.causes.push_back({cause.at(0), cause.at(1)});
    if (const auto texts = readTexts(j, r, file); !texts) return texts.error();
    r.drillMinutes = j.value("minutes", r.drillMinutes);
    r.drillBothSides = j.value("both_sides", r.drillBothSides);
    return r;
}

} // namespace

std::optional<Band> FaultRules::band(Measure m, StanceKind stance, const SchoolLine& school,
                                     double reference) const
{
    return bandOf(m_rules, &FaultRule::measure, m, stance, school, reference);
}

std::optional<Band> FaultRules::band(PhaseMeasure m, StanceKind stance, const SchoolLine& school,
                                     double reference) const
{
    return bandOf(m_rules, &FaultRule::whole, m, stance, school, reference);
}

Result<Done> FaultRules::read(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    std::string current = "the first";
    try {
        for (const auto& j : *json) {
            current = j.value("id", "after " + current);
            auto rule = parsed(j, file.string());
            if (!rule) return rule.error();
            const auto same = std::find_if(m_rules.begin(), m_rules.end(),
                                           [&](const FaultRule& r) { return r.id == rule->id; });
            if (same == m_rules.end())
                m_rules.push_back(std::move(*rule));
            else
                *same = std::move(*rule);
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, "the fault \"" + current + "\" lacks something: " + e.what(),
                     file.string(), "Take the shipped file again."};
    }
    for (const FaultRule& r : m_rules)
        for (const FaultRule::Cause& c : r.causes)
            if (!find(c.fault))
                return Error{Error::Kind::BadInput,
                             "the fault \"" + r.id + "\" names an unknown cause \"" + c.fault + "\"",
                             file.string(), "Name a fault of this file."};
    return Done{};
}

Result<FaultRules> FaultRules::load(const std::filesystem::path& folder, const std::filesystem::path& own)
{
    FaultRules rules;
    auto done = rules.read(folder / "faults.json");
    if (!done) return done.error();
    const auto ownFile = own / "faults.json";
    if (own.empty() || !std::filesystem::exists(ownFile)) return rules;
    const auto checked = readOwn(ownFile, folder, "faults");
    if (!checked) return checked.error();
    done = rules.read(ownFile);
    if (!done) return done.error();
    return rules;
}

} // namespace jl
