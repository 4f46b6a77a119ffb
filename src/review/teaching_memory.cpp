#include "review/teaching_memory.h"
#include "review/fault_rules.h"

namespace jl
{

const FaultMemory& TeachingMemory::of(const std::string& fault) const
{
    static const FaultMemory nothing;
    const auto found = faults.find(fault);
    return found == faults.end() ? nothing : found->second;
}

double TeachingMemory::prior(const FaultRule& rule, const std::string& cause) const
{
    constexpr double shippedCounts = 4;
    double shipped = 0;
    for (const FaultRule::Cause& c : rule.causes)
        if (c.fault == cause) shipped = c.prior;
    int chosen = 0, all = 0;
    for (const auto& [link, times] : filed) {
        if (link.first != rule.id) continue;
        all += times;
        if (link.second == cause) chosen += times;
    }
    return (shippedCounts * shipped + chosen) / (shippedCounts + all);
}

} // namespace jl
