#pragma once
#include "base/units.h"
#include "body/body_motion.h"
#include <string_view>

namespace jl
{

/// A foot that meets or leaves the floor.
struct FootEvent {
    Side side = Side::Left;
    bool lift = false;    ///< otherwise a touch
    Seconds time = 0;     ///< s
    std::string_view how; ///< of a touch: heel, flat or toe
    Seconds flatAt = 0;   ///< of a touch: when the whole sole lies, s
};

/// Both feet off the floor at once.
struct Leap {
    Seconds begin = 0, end = 0; ///< s
    Metres height = 0;          ///< of the lower foot's lowest point, at most
};

/// Which feet stand at each frame of a motion, and when that changes.
struct FloorContact {
    std::array<std::vector<bool>, 2> stands; ///< by Side, one for every frame
    std::vector<FootEvent> footEvents;       ///< in order of time
    std::vector<Leap> leaps;                 ///< in order of time; too short to be steps of both feet
    /// By Side, for every frame: how far the lower of heel and toe is above where that point lies when the
    /// foot stands, m; NaN where they are not seen.
    std::array<std::vector<double>, 2> height;

    bool standsAt(Side side, std::size_t frame) const
    {
        return stands[static_cast<std::size_t>(side)][frame];
    }
};

/// When a step of each foot is to be expected, one flag for every frame; from the model of the form. Empty
/// where nothing is known.
using ExpectedSteps = std::array<std::vector<bool>, 2>;

/// Weighs two hypotheses for each foot over the whole motion: it stands (heel or toe rests, near where that
/// point lies when the foot is flat) or it is in the air (no matter where and how fast). The more probable
/// course is found by the Viterbi algorithm; a change costs as much as a few frames of contrary evidence, so
/// that a jump of a point makes no step, and less where a step is expected: there it may be small and slow,
/// elsewhere it must be plain. Heights count from each point's own lowest fifth, since a camera sees
/// them some centimetres off. Frames without points (NaN) carry no evidence.
FloorContact floorContact(const BodyMotion& motion, const ExpectedSteps& expected = {});

} // namespace jl
