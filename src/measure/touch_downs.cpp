#include "measure/touch_downs.h"
#include <cmath>

namespace jl
{
namespace
{

constexpr double kLifted = 0.10, kDown = 0.04, kKnown = 0.02; // m

int touchesBelow(const std::vector<double>& height, double down)
{
    int touches = 0;
    bool lifted = false, touched = false;
    for (double h : height) {
        if (h > kLifted) {
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
    const int more = touchesBelow(height, kDown + kKnown), less = touchesBelow(height, kDown - kKnown);
    return {static_cast<double>(touchesBelow(height, kDown)), 0.5 * (more - less)};
}

} // namespace jl
