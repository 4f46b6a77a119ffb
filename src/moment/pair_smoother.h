#pragma once
#include "base/units.h"
#include "moment/two_view_measurer.h"
#include <optional>
#include <span>

namespace jl
{

/// A few moments around an arrival as two cameras saw them, evenly in time.
struct PairWindow {
    std::vector<BodyFrame> first, second; ///< steadied; as many of each
    Seconds step = 0;                     ///< s
};

/// Lengths that stay the same however a body moves, m; both sides share one.
class SteadyBones
{
public:
    static constexpr std::size_t kCount = 8;
    /// The two points of a bone on a side; one that goes across begins there.
    static std::pair<Landmark, Landmark> ends(std::size_t bone, Side side);
    static bool goesAcross(std::size_t bone);

    /// Medians over bodies as the lines of sight give them.
    explicit SteadyBones(std::span<const BodyPoints> bodies);

    double length(std::size_t bone) const { return m_length[bone]; }

private:
    std::array<double, kCount> m_length{};
};

/// The body (anatomical, room frame) in the middle of a window, such that all its moments agree: lines of
/// sight meet as well as they do, bones keep their lengths, movement is smooth, and feet that stand do not
/// slide. A point that one network put wrongly gives way to the rest. Nothing where the body is not seen in
/// both pictures throughout.
///
/// Least squares over all points of the window, from where the lines of sight meet; the cameras stay where
/// they were placed (what is gained by it is in docs/method.md).
std::optional<BodyPoints> smoothTogether(const TwoViewMeasurer& measurer, const PairWindow& window,
                                         const SteadyBones& bones, double height);

} // namespace jl
