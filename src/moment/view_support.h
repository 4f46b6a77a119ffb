#pragma once
#include "moment/one_view_measurer.h"

namespace jl
{

/// Can this measure be read by the movement-plane method from one camera at the azimuth (deg), for a body
/// that stands about like the prior? What lies across the line of sight can; what needs depth cannot.
bool supported(Measure m, double azimuth, const MomentPrior& prior);

} // namespace jl
