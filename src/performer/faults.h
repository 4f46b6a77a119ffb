#pragma once
#include "performer/choreography.h"
#include <string>
#include <vector>

namespace jl
{

/// A fault the performer can show on purpose.
struct FaultKind {
    std::string_view id;
    Measure measure;
    std::string_view meaning; ///< what the size counts from
    double usual;             ///< a clear but ordinary size, in the measure's unit
    double largest;           ///< what a body can still do
};

/// The faults this performer knows.
const std::vector<FaultKind>& faultKinds();

struct FaultRequest {
    std::string id;
    double size = 0;
    std::string posture; ///< only there; empty: wherever the stance allows it
};

/// A fault as it was built in.
struct PerformedFault {
    std::string id;
    double size = 0;
    std::string posture, phase;
};

/// Reads "id=size" or "id=size@posture"; the size in the measure's unit (m, deg, %), lengths also as "8cm".
Result<FaultRequest> parseFault(const std::string& text);

/// Changes the moments so that each fault shows with its size, and lists where. Consequences come by
/// themselves.
Result<std::vector<PerformedFault>> applyFaults(std::vector<Moment>& moments,
                                                const std::vector<FaultRequest>& faults,
                                                const BodyShape& body, const Bands& bow);

} // namespace jl
