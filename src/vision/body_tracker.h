#pragma once
#include "vision/landmark_network.h"
#include "vision/person_detector.h"
#include <optional>

namespace jl
{

/// Follows one body from frame to frame: the landmark network looks where the last frame said, and the
/// detector is asked only at the start and when the body was lost.
class BodyTracker
{
public:
    static Result<BodyTracker> load(LandmarkModel model);

    /// Looks for the body next where it is in a frame read before.
    void startAt(const BodyFrame& body) { m_region = Region::around(body); }

    /// Looks for the body anew in the next frame.
    void forget() { m_region.reset(); }

    /// The body in the frame; seen is false when there is none.
    BodyFrame follow(const Frame& frame);

private:
    BodyTracker(PersonDetector detector, LandmarkNetwork landmarks)
        : m_detector(std::move(detector)), m_landmarks(std::move(landmarks))
    {
    }
    PersonDetector m_detector;
    LandmarkNetwork m_landmarks;
    std::optional<Region> m_region;
};

} // namespace jl
