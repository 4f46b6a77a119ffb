#pragma once
#include "body/track.h"
#include "media/frame.h"
#include <optional>

namespace jl
{

/// How far the camera is turned about its axis, from upright edges of the room beside and above the body's
/// hips: door frames, windows, corners, shelves. In the picture all of them point to one place far below. Of
/// all rolls to 12 degrees, and tilts of cameras on stands (4 degrees down, 1 sd 4), that one is taken with
/// which most of the length of all edges within 16 degrees of upright agrees; the spread follows from how
/// they lie: uprights in one place of the picture separate a roll from a tilt badly. None where fewer than
/// three agree, or less than three tenths of the picture's height in all, or less than six tenths of what
/// there is.
std::optional<CameraRoll> rollByUprights(const Frame& picture, const BodyFrame& body);

} // namespace jl
