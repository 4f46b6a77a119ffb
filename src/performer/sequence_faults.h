#pragma once
#include "performer/faults.h"

namespace jl
{

/// Whether a fault is one of the order of postures rather than of a pose or a move.
bool isSequenceFault(const std::string& id);

/// The postures as performed when some are left out, repeated, exchanged, done on the wrong side or into the
/// wrong direction. Other faults are passed over.
Result<FormStandard> withSequenceFaults(const FormStandard& form, const std::vector<FaultRequest>& faults,
                                        std::vector<PerformedFault>& done);

} // namespace jl
