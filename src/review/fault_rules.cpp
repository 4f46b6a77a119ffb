#include "review/fault_rules.h"
#include "base/json_file.h"
#include <algorithm>

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

Result<FaultRules> FaultRules::load(const std::filesystem::path& folder)
{
    const auto file = folder / "faults.json";
    const auto json = readJson(file);
    if (!json) return json.error();
    FaultRules rules;
    std::string current;
    try {
        for (const auto& j : *json) {
            FaultRule r;
            current = r.id = j.at("id");
            r.name = j.at("name");
            const auto measure = measureFromKey(j.at("measure").get<std::string>());
            if (!measure)
                return Error{Error::Kind::BadInput, "the fault \"" + current + "\" names an unknown measure",
                             file.string(), "Take the shipped file again."};
            r.measure = *measure;
            r.above = j.at("edge") == "high";
            r.margin = j.value("margin", 0.0);
            r.safety = j.value("safety", false);
            r.stances = j.at("stances").get<std::vector<std::string>>();
            r.causes = j.value("causes", std::vector<std::string>{});
            r.title = j.at("title");
            r.cue = j.at("cue");
            r.reason = j.at("reason");
            r.drill = j.at("drill");
            rules.m_rules.push_back(std::move(r));
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, "the fault \"" + current + "\" lacks something: " + e.what(),
                     file.string(), "Take the shipped file again."};
    }
    return rules;
}

} // namespace jl
