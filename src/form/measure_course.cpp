#include "form/measure_course.h"
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

} // namespace

MeasureCourse measureCourse(const ClipReading& clip, Measure measure, double begin, double end, int most)
{
    MeasureCourse course;
    if (end <= begin) return course;
    std::vector<std::size_t> frames; // of the points
    const std::size_t first = clip.track.nearest(begin), last = clip.track.nearest(end);
    const std::size_t step = std::max<std::size_t>(1, (last - first + 1) / static_cast<std::size_t>(most));
    for (std::size_t i = first; i <= last && i < clip.track.frames.size(); i += step) {
        const auto value = clip.valueAt(i, measure);
        if (!value) continue;
        course.points.push_back({(clip.track.frames[i].time - begin) / (end - begin), *value, 0});
        frames.push_back(i);
    }
    if (frames.empty()) return course;
    std::vector<std::size_t> read;
    for (std::size_t k = 0; k + 1 < frames.size(); k += kUncertaintyEvery)
        read.push_back(k);
    read.push_back(frames.size() - 1);
    for (std::size_t k : read)
        course.points[k].u = clip.readFrame(frames[k])[static_cast<std::size_t>(measure)].u;
    fillUncertainty(course.points, read);
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
