#pragma once

namespace jl
{

/// Dissimilarity of two pictures of bodies, and what a path through pictures costs: weighted squared
/// differences of body lines, in standing sizes (body_lines.h). 0 is the same; the clip of a form read as
/// that form costs 0.006 to 0.03 a sample.
using Cost = double;

} // namespace jl
