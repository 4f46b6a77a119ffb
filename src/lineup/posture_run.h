#pragma once
#include "base/units.h"
#include "lineup/cost.h"
#include <cstddef>
#include <utility>
#include <vector>

namespace jl
{

/// A posture of the model gone through once in a clip, or begun.
struct PostureRun {
    enum class Order {
        InPlace,
        FalseStart, ///< begun, left, and begun again
        Repeated,
        OutOfOrder, ///< after a posture that should follow it
    };
    std::size_t place = 0; ///< of the posture in the model, see ModelPerformance::places()
    Order order = Order::InPlace;
    bool otherSide = false;         ///< done as its own mirror picture
    Degrees turned = 0;             ///< deg, clockwise from above, from the direction that the form asks for
    bool rearranged = false;        ///< entered from another posture than in the form
    Seconds begin = 0, end = 0;     ///< s in the clip
    Cost cost = 0;                  ///< mean dissimilarity
    bool begun = true, done = true; ///< false: it is cut off or broken off there
    bool counts = true;             ///< of several runs of a posture the one whose phases are measured
    std::vector<std::pair<double, double>> timePairs; ///< (clip, model) times, neither falling, s

    /// The model's time at a time of the clip, and back; held at the ends.
    double modelTimeAt(double clipTime) const;
    double clipTimeAt(double modelTime) const;
};

/// A warping path moves in whole samples; where hardly anything moves it follows the noise. Averages the time
/// pairs over 0.3 s before and after, across runs that follow each other in the form. The runs are in the
/// clip's order.
void smoothTimePairs(std::vector<PostureRun>& runs);

} // namespace jl
