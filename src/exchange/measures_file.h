#pragma once
#include "reading/lined_up_motion.h"

namespace jl
{

/// The measures of a clip as CSV: one row a frame with value, uncertainty and status of each measure, empty
/// where unseen; then the same measures converted (derivedValues()), and the posture, phase, view
/// and plane of the frame. A value too uncertain for what is promised of it is weak.
std::string measuresCsv(const ClipReading& clip);
/// Of motion capture: values alone, empty where a point is not marked.
std::string measuresCsv(const LinedUpMotion& motion, const PersonProfile& profile);

} // namespace jl
