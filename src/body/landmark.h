#pragma once
#include <array>
#include <cstddef>
#include <optional>
#include <string_view>

namespace jl
{

/// The 33 body points of the landmark networks, in their order. Left and right are the performer's own.
enum class Landmark {
    Nose,
    LeftEyeInner,
    LeftEye,
    LeftEyeOuter,
    RightEyeInner,
    RightEye,
    RightEyeOuter,
    LeftEar,
    RightEar,
    MouthLeft,
    MouthRight,
    LeftShoulder,
    RightShoulder,
    LeftElbow,
    RightElbow,
    LeftWrist,
    RightWrist,
    LeftPinky,
    RightPinky,
    LeftIndex,
    RightIndex,
    LeftThumb,
    RightThumb,
    LeftHip,
    RightHip,
    LeftKnee,
    RightKnee,
    LeftAnkle,
    RightAnkle,
    LeftHeel,
    RightHeel,
    LeftToe,
    RightToe,
};

inline constexpr std::size_t kLandmarkCount = 33;

constexpr std::size_t index(Landmark l)
{
    return static_cast<std::size_t>(l);
}

/// Names used in files, e.g. "left_knee".
std::string_view landmarkName(Landmark l);
std::optional<Landmark> landmarkFromName(std::string_view name);

enum class Side { Left, Right };

constexpr Side other(Side s)
{
    return s == Side::Left ? Side::Right : Side::Left;
}

/// The landmark of the given side, named by its left member: sided(Landmark::LeftKnee, Side::Right) is
/// RightKnee. Every left landmark is followed by its right twin, except in the eyes, which are never asked
/// for.
constexpr Landmark sided(Landmark left, Side side)
{
    return side == Side::Left ? left : static_cast<Landmark>(static_cast<int>(left) + 1);
}

/// The same landmark on the other side of the body (the nose is its own).
Landmark mirrored(Landmark l);

} // namespace jl
