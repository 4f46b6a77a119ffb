#include "measure/touch_downs.h"
#include "base/units.h"
#include <cmath>

namespace jl
{
namespace
{

/// Options of counting touch-downs on the way to a pose on one leg.
/// Chosen on: not recorded.
struct TouchDownOptions {
    /// Height above which the foot is in the air. x0.5 and x2: none.
    Metres lifted = 0.10;
    /// Height below which it touches. x0.5 and x2: none.
    Metres down = 0.04;
    /// By which the lower height is moved for the uncertainty. x0.5 and x2: none.
    Metres spread = 0.02;
};
constexpr TouchDownOptions kOptions;

int touchesBelow(const std::vector<double>& height, double down)
{
    int touches = 0;
    bool lifted = false, touched = false;
    for (double h : height) {
        if (h > kOptions.lifted) {
            touches += touched;
            touched = false;
            lifted = true;
        }
        touched |= lifted && h < down;
    }
    return touches;
}

} // namespace

TouchDowns touchDownsOf(const std::vector<double>& height)
{
    const int more = touchesBelow(height, kOptions.down + kOptions.spread),
              less = touchesBelow(height, kOptions.down - kOptions.spread);
    return {static_cast<double>(touchesBelow(height, kOptions.down)), 0.5 * (more - less)};
}

} // namespace jl
