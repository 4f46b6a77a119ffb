#pragma once
#include "body/person_profile.h"
#include "measure/value.h"
#include <span>

namespace jl
{

/// A length of the student's own body, m, with its standard uncertainty as a share of it.
struct OwnLength {
    double length = 0, spread = 0;
};

/// The lengths in which others are told: known of the profile or, where they are not, those usual for the
/// height. Feet, shoulders and shanks of people of one height differ by about 4 percent (1 sd), and a foot's
/// length is usually known to a percent.
struct OwnLengths {
    OwnLength foot, footBreadth, shoulders, shank;
    static OwnLengths of(const PersonProfile& profile, const BodyLengths& lengths);
};

/// A measure told in another way: by the side of the body instead of by who leads, against another zero, as
/// an angle, or in lengths of the student's own. Where its measure is not seen it is not either; view and
/// plane are the measure's.
struct DerivedValue {
    std::string_view id;   ///< as in measures.csv, e.g. "foot.L.heading"
    std::string_view unit; ///< "deg", "%", "feet" (own foot lengths), "breadths" (of a foot), "shoulders"
    Value told;            ///< in that unit; `measure` is the one it comes from
};

/// All of them at one moment, always the same ones in the same order: knee bend and weight by side; both feet
/// in the room (deg clockwise from where the form began, -180 to 180) and from the nearest eighth of a turn;
/// knees off their feet as the angle of the shank out of the foot's vertical plane, asin(offset / shank);
/// stance in foot lengths, parallel feet in foot breadths, hands apart in shoulder widths. `values` holds all
/// measures in the order of Measure; heading is the direction of the posture, deg.
std::vector<DerivedValue> derivedValues(std::span<const Value> values, Side lead, double headingDeg,
                                        const OwnLengths& own);

} // namespace jl
