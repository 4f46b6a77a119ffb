#pragma once
#include "library/library.h"

namespace jl
{

/// Fills an empty library with the demo class: made-up people and clips of the built-in performer, from
/// data/demo. The clips come in without anything extracted: that is then done by the program itself. A filled
/// library stays as it is.
Result<Done> fillDemo(Library& library);

} // namespace jl
