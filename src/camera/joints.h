#pragma once
#include "body/landmark.h"
#include <array>

namespace jl
{

/// The joints of arms, trunk and legs. Networks agree on them from all sides; on face and fingers they do
/// not.
inline constexpr std::array kJoints{Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftElbow,
                                    Landmark::RightElbow,   Landmark::LeftWrist,     Landmark::RightWrist,
                                    Landmark::LeftHip,      Landmark::RightHip,      Landmark::LeftKnee,
                                    Landmark::RightKnee,    Landmark::LeftAnkle,     Landmark::RightAnkle};

} // namespace jl
