#pragma once
#include "performer/body_shape.h"
#include "performer/pose.h"
#include "standards/standards.h"
#include <map>
#include <string>
#include <utility>
#include <vector>

namespace jl
{

/// A part of a move in which one channel runs from its old to its new value: begin and end as shares of the
/// move.
using Window = std::pair<double, double>;

/// How a performer chooses to do the form.
struct Manner {
    double height = 0; ///< of the stances, added to the pelvis height, % of standing
    bool jump = false; ///< leaves the floor where a posture offers it
};

/// Names of stance heights with what they add to the pelvis height, % of standing.
const std::map<std::string, double>& stanceLevels();

/// A pose the performance moves to, and how.
struct Moment {
    Pose pose;
    double seconds = 1; ///< duration of the move to the pose
    double hold = 0;    ///< stillness after it
    Window feet{0, 1}, weight{0, 1}, pelvis{0, 0.92}, hands{0.08, 1};
    double jump = 0;  ///< height of a jump in the middle of the move, m
    double hitch = 0; ///< how far the move falters again and again on its way, share of its speed
    std::string posture, phase;
    StanceKind stance = StanceKind::Parallel;
    bool key = false;   ///< the phase ends here
    double heading = 0; ///< the posture's direction, deg
    Side lead = Side::Right;
};

/// Numbers the places where a foot stands, one number a moment: it changes when the foot is set down
/// elsewhere, not when it turns on the spot.
std::vector<int> footPlaces(const std::vector<Moment>& moments, Side side);

/// Puts the heels of turns on the ball where the turn takes them, after feet were moved or turned a little.
void settleBallTurns(std::vector<Moment>& moments, const BodyShape& body);

/// Lowers every pose's wished pelvis height to what its legs reach, so that a move sinks evenly to where a
/// step lands instead of being pulled down by the landing leg.
void settleHeights(std::vector<Moment>& moments, const BodyShape& body);

/// What a body cannot do is done the gentler way: a touch with the toes for a kick, a higher stance for a
/// knee that bends no further, feet and pelvis that turn less for stiff hips.
void adaptToBody(std::vector<Moment>& moments, const BodyShape& body);

/// The moves of a form for one body, side and school, in room coordinates: the posture files' moves, mirrored
/// for a left lead, with lengths in the body's own foot lengths and the school's middle values where a file
/// says "bow".
Result<std::vector<Moment>> choreograph(const Standards& standards, const FormStandard& form,
                                        const SchoolStandard& school, Side lead, const BodyShape& body,
                                        const Manner& manner = {});

} // namespace jl
