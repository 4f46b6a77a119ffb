#pragma once
#include "body/track.h"
#include "media/frame.h"
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

    /// Whether the first picture has enough detail beside the body, across and down, to tell.
    bool canTell() const { return m_canTell; }

    /// Of a later picture, pixels of the upright picture; the body there is left out. None when the halves of
    /// the picture disagree or the search does not settle: the camera moved in another way, or too fast.
    std::optional<Eigen::Vector2d> of(const Frame& frame, const BodyFrame& body);

private:
    struct Coarse {
        int width = 0, height = 0;
        double scale = 1; ///< pixels of the upright picture to one of this
        std::vector<float> light;
        float at(int x, int y) const { return light[static_cast<std::size_t>(y) * width + x]; }
    };
    /// A pixel of the first picture that has a gradient.
    struct Mark {
        int x, y;
        float light, across, down;
    };
    struct Box {
        double left = 0, right = 0, top = 0, bottom = 0; ///< empty when nobody is there
        bool holds(double x, double y) const { return x > left && x < right && y > top && y < bottom; }
    };
    static Coarse coarse(const Frame& frame);
    static Coarse softened(const Coarse& picture, int reach);
    static std::vector<Mark> marksOf(const Coarse& picture, const Box& body);
    static Box boxOf(const BodyFrame& body, double scale);
    static std::optional<Eigen::Vector2d> settle(const Coarse& now, const std::vector<Mark>& marks,
                                                 const Box& body, Eigen::Vector2d start);

    std::vector<Mark> m_fine, m_soft; ///< of the picture, and of a softened one for larger shifts
    std::vector<Mark> m_parts[4];     ///< the fine ones on the left, right, above and below
    bool m_canTell = false;
    Eigen::Vector2d m_last{0, 0}; ///< of the coarse picture
};

} // namespace jl
