#pragma once
#include "performer/performance.h"

namespace jl
{

/// A foot that meets or leaves the floor.
struct FloorEvent {
    enum class Kind { Contact, Lift } kind = Kind::Contact;
    Side side = Side::Left;
    double time = 0;        ///< s
    std::string_view how;   ///< of a contact: heel, flat or toe
    double flatAt = 0;      ///< of a contact: when the whole sole lies down, s
    double weight = 0;      ///< share on that foot then, %
    double weightAfter = 0; ///< of a contact: its largest share in the quarter second after, %
    double drop = 0;        ///< speed at which the pelvis sinks then, m/s
};

std::vector<FloorEvent> floorEvents(const Performance& performance);

} // namespace jl
