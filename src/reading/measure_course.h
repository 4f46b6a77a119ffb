#pragma once
#include "base/units.h"
#include "reading/pair_measurement.h"

namespace jl
{

/// A measure over a stretch of time.
struct MeasureCourse {
    struct Point {
        Share share = 0; ///< of the stretch, 0 to 1
        double value = 0, u = 0;
    };
    std::vector<Point> points; ///< where it is seen
};

/// As a clip shows a measure from `begin` to `end`, s, at up to `most` moments.
MeasureCourse measureCourse(const ClipReading& clip, Measure measure, double begin, double end,
                            int most = 48);

/// As two clips that were filmed at once show it together, in the first one's time.
MeasureCourse measureCourse(const PairMeasurement& together, const ClipReading& first,
                            const ClipReading& second, Measure measure, double begin, double end,
                            int most = 48);

/// As the model has it.
MeasureCourse measureCourse(const ModelPerformance& model, Measure measure, double height, double begin,
                            double end, int most = 48);

} // namespace jl
