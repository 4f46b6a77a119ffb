#pragma once

namespace jl
{

// Units of numbers, as names of double: they say what a member holds. The compiler does not check them.
// Where the unit depends on a measure (values, bands, uncertainties) the type is plain double.

using Seconds = double;
using Metres = double;
using MetresPerSecond = double;
using Degrees = double; ///< headings count clockwise from above, 0 where the form begins
using Percent = double;
using Pixels = double;
using Share = double; ///< of a whole, 0 to 1
using Ratio = double; ///< of two quantities of one unit

} // namespace jl
