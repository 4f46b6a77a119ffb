#pragma once
#include "vision/appearance.h"
#include "vision/landmark_network.h"
#include "vision/person_detector.h"
#include <optional>

namespace jl
{

/// Follows one body from frame to frame: the landmark network looks where the last frame said, and the
/// detector is asked only at the start, when the body was lost, and when what is seen may be somebody else:
/// the body jumped, or wears other clothes. Then the person nearest and most similar to the body
/// followed so far is taken; while it is hidden behind another, no body is reported.
class BodyTracker
{
public:
    static Result<BodyTracker> load(LandmarkModel model);

    /// The body at this point of the next frame is the one to follow; otherwise the most prominent is.
    void choose(const Eigen::Vector2d& point)
    {
        m_chosen = point;
        m_wasChosen = true;
    }

    /// Looks for the body next where it is in a frame read before.
    void startAt(const BodyFrame& body);

    /// Goes on from a body that was read in that frame.
    void goOnFrom(const Frame& frame, const BodyFrame& body);

    /// Searches the same body again in the next frame, wherever it is.
    void forget();

    /// The body in the frame; seen is false when there is none.
    BodyFrame follow(const Frame& frame);

private:
    using Reading = LandmarkNetwork::Reading;

    BodyTracker(PersonDetector detector, LandmarkNetwork landmarks)
        : m_detector(std::move(detector)), m_landmarks(std::move(landmarks))
    {
    }
    /// Where the body was last.
    struct Seen {
        double time = 0;
        Region region;
    };

    bool isBody(const Reading& reading, const Frame& frame) const;
    bool goesOn(const Reading& reading, const Appearance& looks) const;
    bool staysPut(const Reading& reading) const;
    double oddness(const Reading& reading, const Appearance& looks) const;
    std::optional<Reading> readTwice(const Frame& frame, const Region& rough);
    /// Who is found in parts of the picture: where the body was last, or at the chosen point.
    std::vector<PersonDetector::Person> overlooked(const Frame& frame);
    /// Who is found in parts of half the picture's height: somebody who stands far off. Twice a second at the
    /// most, for it takes long.
    std::vector<PersonDetector::Person> farOff(const Frame& frame);
    std::optional<Reading> likest(const std::vector<Reading>& readings, const Frame& frame, bool alone) const;
    std::optional<Reading> lookAround(const Frame& frame, const std::optional<Reading>& doubtful);
    BodyFrame accept(const Reading& reading, const Frame& frame);

    PersonDetector m_detector;
    LandmarkNetwork m_landmarks;
    std::optional<Region> m_region; ///< where to look in the next frame
    std::optional<Seen> m_last;
    std::optional<Appearance> m_person;   ///< of the body that is followed
    std::optional<double> m_soughtSince;  ///< s, since when the body is searched again
    std::optional<double> m_soughtFarOff; ///< s, when somebody far off was looked for last
    std::optional<Eigen::Vector2d> m_chosen;
    bool m_wasChosen = false; ///< then nobody else ever takes the body's place
    bool m_alone = true;      ///< when the detector was asked last
};

} // namespace jl
