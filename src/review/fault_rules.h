#pragma once
#include "base/result.h"
#include "measure/measure_id.h"
#include <filesystem>
#include <string>
#include <vector>

namespace jl
{

enum class Severity { Watch, Fault, Safety };
std::string_view severityName(Severity s);

/// One row of data/faults.json: when a measure counts as a fault, what may cause it, and what is said about
/// it.
struct FaultRule {
    std::string id;
    std::string name; ///< what is seen, for lists and chains
    Measure measure = Measure::KneeLeadFlexion;
    bool above = true;                ///< out of the band at its upper end; otherwise at its lower end
    double margin = 0;                ///< beyond the band by up to this it is only watched
    bool safety = false;              ///< shown at every level; its band is never moved by a reference
    std::vector<std::string> stances; ///< stance kinds in which the rule holds
    std::vector<std::string> causes;  ///< likelier causes, the likeliest first
    std::string title;                ///< heading of the correction
    std::string cue;
    std::string reason;
    std::string drill;
};

class FaultRules
{
public:
    static Result<FaultRules> load(const std::filesystem::path& folder);
    const std::vector<FaultRule>& all() const { return m_rules; }
    const FaultRule* find(const std::string& id) const;

private:
    std::vector<FaultRule> m_rules;
};

} // namespace jl
