#pragma once
#include "review/review.h"

namespace jl
{

/// Adds to a review what its reader must know of the circumstances: an unknown height, the student's limits,
/// two clips filmed at once, a cut clip, hints left out, a moving camera, the small network.
void noteCircumstances(Review& review, const ReviewInput& input);

} // namespace jl
