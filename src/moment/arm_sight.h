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

/// Whether a hand is seen well enough to read where its palm looks, by the network's own opinion of wrist and
/// knuckles.
inline bool handSeen(const BodyFrame& frame, Side side)
{
    constexpr float enough = 0.7F;
    for (Landmark l : {Landmark::LeftWrist, Landmark::LeftIndex, Landmark::LeftPinky})
        if (frame.visibility[index(sided(l, side))] < enough) return false;
    return true;
}

} // namespace jl
