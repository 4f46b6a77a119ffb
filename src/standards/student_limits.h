#pragma once
#include "base/units.h"
#include "standards/standards.h"
#include <chrono>
#include <optional>
#include <string>
#include <vector>

namespace jl
{

/// What a student's body allows today, as the instructor recorded it. It caps what is asked before anything
/// is judged, and swaps in the gentler variant of a posture; no school and no reference asks for more.
struct StudentLimits {
    std::optional<Degrees> kneeFlexion;  ///< deg, the deepest any knee should bend
    std::optional<Degrees> squareWithin; ///< deg, how near to square the hips need to come; the waist's twist
                                         ///< likewise
    bool kicks = true;      ///< false: the toes touch the floor instead of a kick or a raised knee
    bool lowStances = true; ///< false: a high stance instead of a crouch
    bool jumps = true;
    bool steady =
        true; ///< false: falling would be dangerous, so that losing balance counts as a matter of safety

    std::optional<Side> kneeSide;               ///< whose bend is limited; none: both knees
    std::optional<std::chrono::sys_days> until; ///< the last day on which they hold; none: without end

    bool none() const { return *this == StudentLimits{}; }
    /// Those that hold on a day: all of them, or, after the last day, none.
    StudentLimits inForceOn(std::chrono::sys_days day) const;
    bool operator==(const StudentLimits&) const = default;
};

/// What is asked of a student in a phase, and what of it differs from what the school asks.
struct PhaseAsked {
    PhaseStandard phase;  ///< with another stance kind where a gentler variant is swapped in
    bool gentler = false; ///< the phase is done in another way, so that a reference is no yardstick for it
};

/// The variant of a phase that the limits allow.
PhaseAsked askedWithin(const StudentLimits& limits, const PhaseStandard& phase);

/// Where a band is asked for.
struct LimitedAt {
    StanceKind inForm = StanceKind::Parallel; ///< as the form has it, before a gentler variant took its place
    bool gentler = false;
    Side lead = Side::Right;
};

/// A measure's band under the limits; none stays none unless the limits themselves ask something of the
/// measure: a foot that stays down where no kick is allowed, a pelvis that stays up where no crouch is. True
/// in `capped` where the limits changed it.
std::optional<Band> bandWithin(const StudentLimits& limits, const LimitedAt& at, Measure measure,
                               std::optional<Band> band, bool& capped);

/// The limits in words, one line each, for the review and the slip.
std::vector<std::string> limitWords(const StudentLimits& limits);

} // namespace jl
