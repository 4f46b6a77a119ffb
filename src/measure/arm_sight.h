#pragma once
#include "body/track.h"

namespace jl
{

/// Whether an arm is seen well enough to be measured, by the network's own opinion of elbow and wrist: arms
/// go behind the body, as legs in a stance do not.
inline bool armSeen(const BodyFrame& frame, Side side)
{
    constexpr float enough = 0.7F;
    return frame.visibility[index(sided(Landmark::LeftElbow, side))] >= enough &&
           frame.visibility[index(sided(Landmark::LeftWrist, side))] >= enough;
}

} // namespace jl
