#pragma once
#include "bundle/review_bundle.h"
#include "library/library.h"

namespace jl
{

/// What was decided about a correction, as a bundle has it and as the library has it. A decision that is not
/// known counts as none.
BundleChoice bundleChoice(const std::string& fault, const SlipChoice& choice);
SlipChoice slipChoice(const BundleChoice& choice);

} // namespace jl
