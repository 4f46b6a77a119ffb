#pragma once
#include "base/result.h"
#include <string>

namespace jl
{

/// Writes a clip so many times one after the other into one file, without re-encoding its pictures: long
/// clips for measuring the program's own speed. Sound is left out.
Result<Done> repeatClip(const std::string& clip, int times, const std::string& file);

} // namespace jl
