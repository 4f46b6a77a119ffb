#include "form/measure_course.h"
#include <algorithm>
#include <cmath>

namespace jl
{

MeasureCourse measureCourse(const ClipReading& clip, Measure measure, double begin, double end, int most)
{
    MeasureCourse course;
    if (end <= begin) return course;
    const std::size_t first = clip.track.nearest(begin), last = clip.track.nearest(end);
    const std::size_t step = std::max<std::size_t>(1, (last - first + 1) / static_cast<std::size_t>(most));
    for (std::size_t i = first; i <= last && i < clip.track.frames.size(); i += step) {
        if (!clip.track.frames[i].seen) continue;
        const Value v = clip.readFrame(i)[static_cast<std::size_t>(measure)];
        if (v.seen)
            course.points.push_back({(clip.track.frames[i].time - begin) / (end - begin), v.value, v.u});
    }
    return course;
}

MeasureCourse measureCourse(const ModelPerformance& model, Measure measure, double height, double begin,
                            double end, int most)
{
    MeasureCourse course;
    const BodyLengths lengths = BodyLengths::usual(height);
    for (int k = 0; k <= most && end > begin; ++k) {
        const double share = static_cast<double>(k) / most, time = begin + share * (end - begin);
        const ModelPerformance::Phase& p = model.phaseAt(time);
        const double value = measureValue(measure, model.scaledTo(height, time), lengths, p.lead, p.heading);
        if (std::isfinite(value)) course.points.push_back({share, value, 0});
    }
    return course;
}

} // namespace jl
