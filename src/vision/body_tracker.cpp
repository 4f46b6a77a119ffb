#include "vision/body_tracker.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kPresent = 0.5;

bool plausible(const Region& region, const Frame& frame)
{
    const double largest = std::max(frame.uprightWidth(), frame.uprightHeight());
    const auto& c = region.centre;
    return region.size > 24 && region.size < 3 * largest && c.x() > -0.2 * largest &&
           c.y() > -0.2 * largest && c.x() < frame.uprightWidth() + 0.2 * largest &&
           c.y() < frame.uprightHeight() + 0.2 * largest;
}

} // namespace

Result<BodyTracker> BodyTracker::load(LandmarkModel model)
{
    auto detector = PersonDetector::load();
    if (!detector) return detector.error();
    auto landmarks = LandmarkNetwork::load(model);
    if (!landmarks) return landmarks.error();
    return BodyTracker(std::move(*detector), std::move(*landmarks));
}

BodyFrame BodyTracker::follow(const Frame& frame)
{
    for (bool asked = false;;) {
        if (!m_region) {
            asked = true;
            m_region = m_detector.find(frame);
            // A detector's region is rough; one more look from the network's own region sharpens the first
            // frame.
            if (m_region) {
                const auto first = m_landmarks.read(frame, *m_region);
                m_region = first.body.score >= kPresent && plausible(first.next, frame)
                               ? std::optional(first.next)
                               : std::nullopt;
            }
            if (!m_region) break;
        }
        const auto reading = m_landmarks.read(frame, *m_region);
        if (reading.body.score >= kPresent && plausible(reading.next, frame)) {
            m_region = reading.next;
            return reading.body;
        }
        m_region.reset();
        if (asked) break;
    }
    BodyFrame nobody;
    nobody.time = frame.time;
    return nobody;
}

} // namespace jl
