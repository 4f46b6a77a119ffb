#pragma once
#include "base/units.h"
#include "body/body_points.h"
#include <functional>

namespace jl
{

/// How somebody stands otherwise than the model: with the feet further apart, the body to one side of their
/// middle, and the trunk inclined.
struct StandingChange {
    Metres apart = 0; ///< m, from foot to foot more than the model
    Metres aside = 0; ///< m, hips and what is above them to the right
    Degrees lean = 0; ///< deg, trunk and head forward about the hips
};

/// The standing body so changed: knees go half of the way.
BodyPoints standingWith(const BodyPoints& standing, const StandingChange& change);

/// The standing body that a picture fits best, `misfit` being how far a camera's picture of a body is off
/// (m); the body itself where it fits as usual. A camera that is fitted to feet which do not stand where the
/// model has them would stand wrongly itself, and read the model's stance.
BodyPoints standingAsSeen(const BodyPoints& standing, const std::function<double(const BodyPoints&)>& misfit);

} // namespace jl
