#pragma once
#include "base/angles.h"
#include "base/units.h"
#include "body/track.h"
#include "camera/camera.h"
#include <Eigen/Core>
#include <array>
#include <cmath>
#include <optional>
#include <vector>

namespace jl
{

/// Two points on the floor in the picture at the start of the clip (pixels), and how far apart they are.
struct FloorSpan {
    Eigen::Vector2d from{0, 0}, to{0, 0};
    Metres length = 0; ///< m
};

/// What the instructor knows of the room or the camera, to place the camera better than the standing body
/// alone can.
struct CalibrationHints {
    std::vector<FloorSpan> spans;
    /// Where the wall that the performer faces or has behind them meets the floor: two points in the picture.
    /// Performers open square to it.
    std::optional<std::array<Eigen::Vector2d, 2>> wall;
    std::optional<Degrees> fieldOfView; ///< deg across the longer side of the picture
    Ratio fieldSpread = 0.02;           ///< how well, relative, 1 sd of the focal length

    std::optional<CameraRoll> roll; ///< of a camera held askew, where the room's uprights tell it

    LensPrior lens() const
    {
        if (!fieldOfView) return {};
        return {0.5 / std::tan(0.5 * *fieldOfView * kRadPerDeg), fieldSpread};
    }
    bool empty() const { return spans.empty() && !wall && !fieldOfView; }
    /// A sheet or mat on the floor: its corners in order, and the lengths of the first and second side, m.
    void addSheet(const std::array<Eigen::Vector2d, 4>& corners, double first, double second);
};

} // namespace jl
