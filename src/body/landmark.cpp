#include "body/landmark.h"

namespace jl
{

std::string_view landmarkName(Landmark l)
{
    static constexpr std::array<std::string_view, kLandmarkCount> names{
        "nose",        "left_eye_inner",  "left_eye",       "left_eye_outer", "right_eye_inner",
        "right_eye",   "right_eye_outer", "left_ear",       "right_ear",      "mouth_left",
        "mouth_right", "left_shoulder",   "right_shoulder", "left_elbow",     "right_elbow",
        "left_wrist",  "right_wrist",     "left_pinky",     "right_pinky",    "left_index",
        "right_index", "left_thumb",      "right_thumb",    "left_hip",       "right_hip",
        "left_knee",   "right_knee",      "left_ankle",     "right_ankle",    "left_heel",
        "right_heel",  "left_toe",        "right_toe"};
    return names[index(l)];
}

Landmark mirrored(Landmark l)
{
    const int i = static_cast<int>(l);
    if (i == 0) return l;
    if (i <= 3) return static_cast<Landmark>(i + 3);
    if (i <= 6) return static_cast<Landmark>(i - 3);
    return static_cast<Landmark>(i % 2 == 1 ? i + 1 : i - 1);
}

std::optional<Landmark> landmarkFromName(std::string_view name)
{
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        if (landmarkName(static_cast<Landmark>(i)) == name) return static_cast<Landmark>(i);
    return {};
}

} // namespace jl
