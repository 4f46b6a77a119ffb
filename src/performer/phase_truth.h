#pragma once
#include "performer/move_order.h"

namespace jl
{

/// The turn of a foot.
struct Pivot {
    double amount = 0; ///< deg, right positive
    /// Where between the heel (0) and the ball (100) the point lies that stayed, %; none below 3 deg and
    /// where the foot steps.
    std::optional<double> about;
};

/// What is true of one phase as a whole; times in s, angles in deg, shares in %.
struct PhaseTruth {
    double duration = 0;
    double pelvisTurn = 0; ///< change of heading, right positive
    Pair<Pivot> pivot;
    double bob = 0;                         ///< range of the pelvis height, % of standing
    double kneeDrift = 0;                   ///< travel of the front knee's plumb, m
    double backwardShift = 0;               ///< largest step back of the weight in a one-way transfer, %
    double doubleTime = 0;                  ///< time with 45 to 55 % on the front leg
    std::optional<double> turnLeads;        ///< start of the pelvis' turn to start of the hands' travel
    std::optional<double> handsArrive;      ///< s, where they travel
    std::optional<double> handsAfterWeight; ///< arrival of the hands minus arrival of the weight
    double oneLegTime = 0;                  ///< time with one foot off the floor
    double sway = 0; ///< 95 % ellipse of the centre of mass on the floor while the pose is held, m2
    int pauses = 0;  ///< stops of more than 0.3 s on the way
    double smoothness =
        0; ///< spectral arc length of the hands' and the pelvis' speed, the less smooth of them
    std::optional<int> touches; ///< on the way to a pose on one leg: how often the lifted foot came down and
                                ///< went up again
    MoveOrder order;
};

PhaseTruth phaseTruth(const Performance& performance, const PerformedPhase& phase);

/// Smoothness of a movement from its speed at even steps: minus the length of the curve of its normalised
/// amplitude spectrum up to 10 Hz, or to where it stays below 5 % (SPARC; Balasubramanian, Melendez-Calderon,
/// Burdet 2012, IEEE Trans. Biomed. Eng. 59:2126). About -1.6 for one smooth move, more negative for hitches.
double spectralArcLength(const std::vector<double>& speed, double step);

} // namespace jl
