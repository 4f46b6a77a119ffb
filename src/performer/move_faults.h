#pragma once
#include "performer/faults.h"

namespace jl
{

/// Faults of the way from one pose to the next. `i` is the moment at whose end the way arrives; it moves on
/// where moments are put in before it.

/// Whether a fault is one of timing, order or smoothness.
bool isMoveFault(const std::string& id);

/// Brings such a fault about. False when this move does not show it.
bool spoilMove(std::vector<Moment>& moments, std::size_t& i, const FaultRequest& fault,
               const BodyShape& body);

inline constexpr double kTouchesDown = 0.04; ///< m of wobble; beyond it the performer puts the foot down

/// Out of balance on the way to a one-legged pose: the free foot touches the floor and goes up again.
void touchDown(std::vector<Moment>& moments, std::size_t& i, const BodyShape& body);

/// A foot that turns on its heel stops `size` degrees before it has turned as far as it should, and stays so
/// until it next turns or steps. False where it does not turn that much.
bool turnShort(std::vector<Moment>& moments, std::size_t i, Side side, double size);

/// A foot that should turn on its heel turns on its ball, and the heel swings out. False where it turns too
/// little to show it.
bool turnOnBall(std::vector<Moment>& moments, std::size_t i, Side side);

/// The knee wanders by `size` (m) while feet and weight stay. False where the move is more than a turn.
bool driftKnee(std::vector<Moment>& moments, std::size_t i, double size);

} // namespace jl
