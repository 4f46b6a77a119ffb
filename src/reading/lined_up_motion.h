#pragma once
#include "body/body_motion.h"
#include "reading/clip_reading.h"

namespace jl
{

/// A performance in space, lined up with the model of its form.
struct LinedUpMotion {
    BodyMotion motion; ///< turned so that the performer faces heading 0 at the opening, over the origin
    LineUp lineUp;
    BodyLengths lengths;

    /// The value of a measure in a frame; NaN where a point it needs is not marked.
    double value(Measure m, std::size_t frame) const;
};

/// Lines up motion capture with a form, looking at it as a camera would. The points of shoulders, hips, legs
/// and feet must be there. Fails as lineUp() does.
Result<LinedUpMotion> lineUpMotion(BodyMotion motion, std::span<const ModelPerformance> models,
                                   const PersonProfile& profile);

} // namespace jl
