#pragma once
#include "performer/performance.h"
#include <optional>

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

/// What is true of one phase as a whole; times in s, angles in deg, shares in %.
struct PhaseTruth {
    double duration = 0;
    double pelvisTurn = 0;                  ///< change of heading, right positive
    double leftPivot = 0, rightPivot = 0;   ///< turn of a foot that stays on its place, right positive
    double bob = 0;                         ///< range of the pelvis height, % of standing
    double kneeDrift = 0;                   ///< travel of the front knee's plumb, m
    double backwardShift = 0;               ///< largest step back of the weight in a one-way transfer, %
    double doubleTime = 0;                  ///< time with 45 to 55 % on the front leg
    std::optional<double> turnLeads;        ///< start of the pelvis' turn to start of the hands' travel
    std::optional<double> handsAfterWeight; ///< arrival of the hands minus arrival of the weight
};

std::vector<FloorEvent> floorEvents(const Performance& performance);
PhaseTruth phaseTruth(const Performance& performance, const PerformedPhase& phase);

} // namespace jl
