#include "reading/measure_course.h"
#include "measure/measure_value.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr std::size_t kUncertaintyEvery = 6; ///< points: it costs a hundred times the value

/// Fills in the uncertainties between those that were read: straight, and as at the ends outside.
void fillUncertainty(std::vector<MeasureCourse::Point>& points, const std::vector<std::size_t>& read)
{
    std::size_t next = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        while (next < read.size() && read[next] < i)
            ++next;
        if (next < read.size() && read[next] == i) continue;
        const MeasureCourse::Point& before = points[read[next == 0 ? 0 : next - 1]];
        const MeasureCourse::Point& after = points[read[std::min(next, read.size() - 1)]];
        const double way = after.share - before.share;
        const double share = way > 0 ? (points[i].share - before.share) / way : 0;
        points[i].u = before.u + share * (after.u - before.u);
    }
}

/// Over a clip's frames: value(frame) gives a number where the measure is seen, read(frame) all values with
/// their uncertainties.
template <class ValueOf, class Read>
MeasureCourse courseOver(const Track& track, Measure measure, double begin, double end, int most,
                         const ValueOf& value, const Read& read)
{
    MeasureCourse course;
    if (end <= begin) return course;
    std::vector<std::size_t> frames; // of the points
    const std::size_t first = track.nearest(begin), last = track.nearest(end);
    const std::size_t step = std::max<std::size_t>(1, (last - first + 1) / static_cast<std::size_t>(most));
    for (std::size_t i = first; i <= last && i < track.frames.size(); i += step) {
        const auto seen = value(i);
        if (!seen) continue;
        course.points.push_back({(track.frames[i].time - begin) / (end - begin), *seen, 0});
        frames.push_back(i);
    }
    if (frames.empty()) return course;
    std::vector<std::size_t> rated;
    for (std::size_t k = 0; k + 1 < frames.size(); k += kUncertaintyEvery)
        rated.push_back(k);
    rated.push_back(frames.size() - 1);
    for (std::size_t k : rated)
        course.points[k].u = read(frames[k])[static_cast<std::size_t>(measure)].u;
    fillUncertainty(course.points, rated);
    return course;
}

} // namespace

MeasureCourse measureCourse(const ClipReading& clip, Measure measure, double begin, double end, int most)
{
    return courseOver(
        clip.track, measure, begin, end, most, [&](std::size_t i) { return clip.valueAt(i, measure); },
        [&](std::size_t i) { return clip.measureFrame(i); });
}

MeasureCourse measureCourse(const PairMeasurement& together, const ClipReading& first,
                            const ClipReading& second, Measure measure, double begin, double end, int most)
{
    const TwoViewMeasurer& measurer = *together.measurer;
    const auto other = [&](std::size_t i) {
        return frameAt(second.track, first.track.frames[i].time + measurer.cameras().offset);
    };
    return courseOver(
        first.track, measure, begin, end, most,
        [&](std::size_t i) {
            const BodyFrame& frame = first.track.frames[i];
            return measurer.value(measure, frame, other(i), first.priorAt(frame.time));
        },
        [&](std::size_t i) {
            const BodyFrame& frame = first.track.frames[i];
            return measurer.measure(frame, other(i), first.priorAt(frame.time));
        });
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
