#pragma once
#include "performer/choreography.h"
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace jl
{

/// A fault the performer can show on purpose.
struct FaultKind {
    std::string_view id;
    std::optional<Measure> measure; ///< the measure it takes out of band at key moments, where there is one
    std::string_view unit;          ///< of the size: m, deg, %, s, or ratio
    std::string_view meaning;       ///< what the size counts from
    double usual;                   ///< a clear but ordinary size
    double largest;                 ///< what a body can still do
};

/// The faults this performer knows.
const std::vector<FaultKind>& faultKinds();

struct FaultRequest {
    std::string id;
    double size = 0;
    std::string posture = {}; ///< only there; empty: wherever the stance allows it
    std::string phase = {};   ///< only there; empty: in every phase of the posture
};

/// A fault as it was built in.
struct PerformedFault {
    std::string id;
    double size = 0;
    std::string posture, phase;
};

/// Reads "id=size", "id=size@posture" or "id=size@posture/phase"; the size in the fault's unit, lengths also
/// as "8cm".
Result<FaultRequest> parseFault(const std::string& text);

/// What the school allows in a phase, for the faults whose size counts from there.
using BandsOf = std::function<Bands(const Moment&)>;

/// Changes the moments so that each fault shows with its size, and lists where. Consequences come by
/// themselves. Sequence faults are passed over.
Result<std::vector<PerformedFault>> applyFaults(std::vector<Moment>& moments,
                                                const std::vector<FaultRequest>& faults,
                                                const BodyShape& body, const BandsOf& bands);

} // namespace jl
