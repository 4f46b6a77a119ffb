#pragma once
#include "vision/coarse_picture.h"
#include <optional>

namespace jl
{

/// How far the background lies off where it lay in the first picture: what a hand that holds the camera does.
/// Coarse pictures are laid over each other by least squares of brightness (Lucas and Kanade 1981, with the
/// gradient of the first picture and large differences counting less), the body in both left out, so that
/// edges in any direction help together. Turns and zooms of the camera are no shifts: there the halves of the
/// picture disagree.
class CameraShift
{
public:
    /// `body`: who stands in the first picture.
    CameraShift(const Frame& first, const BodyFrame& body);

    /// Whether the first picture has enough detail beside the body, across and down, for that.
    bool canTell() const { return m_canTell; }

    /// Of a later picture, pixels of the upright picture; the body there is left out. None when the halves of
    /// the picture disagree or the search does not settle: the camera moved in another way, or too fast.
    std::optional<Eigen::Vector2d> of(const Frame& frame, const BodyFrame& body);

private:
    /// A pixel of the first picture that has a gradient.
    struct Mark {
        int x, y;
        float light, across, down;
    };
    static std::vector<Mark> marksOf(const CoarsePicture& picture, const BodyBox& body);
    static std::optional<Eigen::Vector2d> settle(const CoarsePicture& now, const std::vector<Mark>& marks,
                                                 const BodyBox& body, Eigen::Vector2d start);

    std::vector<Mark> m_fine, m_soft; ///< of the picture, and of a softened one for larger shifts
    std::vector<Mark> m_parts[4];     ///< the fine ones on the left, right, above and below
    bool m_canTell = false;
    Eigen::Vector2d m_last{0, 0}; ///< of the coarse picture
};

} // namespace jl
