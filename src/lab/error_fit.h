#pragma once
#include "lab/network_errors.h"
#include "lab/validation.h"

namespace jl
{

/// The errors of the networks as extracted tracks show them against the exact bodies, about the key moments
/// of every phase, of bodies that stand and of others. Errors of one point beyond 3.5 of its usual ones (3.5
/// times 1.48 times the median) count as that: the few that are quite wrong would hide what all others do. At
/// moments at which an arm is not seen its points do not count.
Result<NetworkErrors> fitErrors(const ShippedData& data, const std::vector<CaseOutcome>& outcomes);

} // namespace jl
