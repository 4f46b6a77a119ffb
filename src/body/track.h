#pragma once
#include "base/units.h"
#include "body/landmark.h"
#include "body/loudness.h"
#include <Eigen/Core>
#include <array>
#include <optional>
#include <string>
#include <vector>

namespace jl
{

/// One body seen in one picture.
struct BodyFrame {
    Seconds time = 0;                                  ///< presentation time in the clip, s
    Share score = 0;                                   ///< the network's presence score, 0 to 1
    std::array<Eigen::Vector2d, kLandmarkCount> point; ///< pixels in the upright picture, x right, y down
    std::array<float, kLandmarkCount> visibility{};    ///< 0 to 1, the network's own opinion
    /// The network's own guess at the body in space: m, about the mid-hip, camera axes (x right, y down, z
    /// away). Kept for files; nothing is measured by it.
    std::array<Eigen::Vector3f, kLandmarkCount> metric;

    /// Of points that were put in place by hand: their standard uncertainty, pixels. 0: as the network has
    /// it.
    std::array<float, kLandmarkCount> placed{};
    /// How far the background lies off where it lay at the start of the clip, pixels; when the camera moved
    /// in a way that could not be followed, that of the frame before.
    Eigen::Vector2d cameraShift{0, 0};
    bool seen = false;       ///< false: no body was found; the points then mean nothing
    bool cameraLost = false; ///< the shift is not known here

    BodyFrame()
    {
        point.fill(Eigen::Vector2d::Zero());
        metric.fill(Eigen::Vector3f::Zero());
    }
    const Eigen::Vector2d& at(Landmark l) const { return point[index(l)]; }
    Eigen::Vector2d mid(Landmark a, Landmark b) const { return 0.5 * (at(a) + at(b)); }
};

/// How far a camera is turned about its axis, deg: positive where the picture seems turned clockwise.
struct CameraRoll {
    Degrees deg = 0;
    Degrees spread = 0; ///< standard uncertainty
};

/// A body followed through a clip, as extracted: never repaired or smoothed in place.
struct Track {
    int width = 0; ///< picture size after rotation, pixels
    int height = 0;
    double framesPerSecond = 0;
    std::string clip;  ///< file name the track came from
    std::string model; ///< network: lite, full, heavy, or "exact" for the performer's own
    std::optional<Degrees>
        fieldOfView;                ///< deg across the longer side of the picture, where the file gives it
    std::optional<CameraRoll> roll; ///< where upright edges of the room tell it
    std::vector<BodyFrame> frames;
    LoudnessCourse loudness; ///< of the clip's sound; empty where it has none

    double duration() const { return frames.empty() ? 0 : frames.back().time; }
    /// Share of frames with a body, 0 to 1.
    double seenShare() const;
    /// Index of the frame nearest to a time (0 for an empty track).
    std::size_t nearest(double time) const;
};

/// A frame at a time between two others, every coordinate mixed evenly; as certain as the less certain one.
BodyFrame between(const BodyFrame& a, const BodyFrame& b, double time);

/// The mean of the points of two landmarks.
Eigen::Vector2d midHip(const BodyFrame& f);
Eigen::Vector2d midShoulder(const BodyFrame& f);

/// A copy in which the background stands still: every point is moved back by the camera's shift. The shifts
/// stay known, for drawing.
Track steadied(Track track);

/// The frame of a steadied track as it lies in the picture.
BodyFrame asFilmed(const BodyFrame& frame);

/// A copy with short gaps (up to maxGap seconds) bridged linearly and the points in the picture smoothed by a
/// zero-phase Savitzky-Golay filter of order 2 over the window (seconds). Longer gaps stay unseen, and so do
/// the 0.15 s beside them, in which the body was half hidden.
Track smoothed(Track track, double window = 0.3, double maxGap = 0.25);

} // namespace jl
