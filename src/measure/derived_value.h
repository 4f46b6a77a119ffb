#pragma once
#include "body/person_profile.h"
#include "measure/value.h"
#include <span>

namespace jl
{

/// A length of the student's own body, m, with its standard uncertainty as a share of it.
struct OwnLength {
    Metres length = 0;
    Ratio spread = 0;
};

/// The lengths in which others are expressed: known of the profile or, where they are not, those usual for
/// the height. Feet, shoulders and shanks of people of one height differ by about 4 percent (1 sd), and a
/// foot's length is usually known to a percent.
struct OwnLengths {
    OwnLength foot, footBreadth, shoulders, shank;
    static OwnLengths of(const PersonProfile& profile, const BodyLengths& lengths);
};

/// What a derived value is expressed in.
enum class DerivedUnit { Degree, PerCent, FootLengths, FootBreadths, ShoulderWidths };
std::string_view derivedUnitName(DerivedUnit unit); ///< "deg", "%", "feet", "breadths", "shoulders"

/// How a derived value differs from its measure.
enum class Derivation {
    OtherSide,     ///< by the side of the body instead of by who leads
    RoomHeading,   ///< a heading in the room
    HeadingOffset, ///< the same from the nearest eighth of a turn
    ShankAngle,    ///< a distance of the knee as the angle of the shank
    InOwnLengths,  ///< a distance in lengths of the student's own
};

/// A measure expressed in another way: by the side of the body instead of by who leads, against another zero,
/// as an angle, or in lengths of the student's own. Where its measure is not seen it is not either; view and
/// plane are the measure's.
struct DerivedValue {
    std::string_view id; ///< as in measures.csv, e.g. "foot.L.heading"
    Derivation derivation;
    DerivedUnit unit;
    Value value; ///< in that unit; its `measure` is the one it comes from
};

/// All of them at one moment, always the same ones in the same order: knee bend and weight by side; both feet
/// in the room (deg clockwise from where the form began, -180 to 180) and from the nearest eighth of a turn;
/// knees off their feet as the angle of the shank out of the foot's vertical plane, asin(offset / shank);
/// stance in foot lengths, parallel feet in foot breadths, hands apart in shoulder widths. `values` holds all
/// measures in the order of Measure; heading is the direction of the posture, deg.
std::vector<DerivedValue> derivedValues(std::span<const Value> values, Side lead, double headingDeg,
                                        const OwnLengths& own);

} // namespace jl
