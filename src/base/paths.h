#pragma once
#include <filesystem>

namespace jl
{

/// The folder of shipped data (postures, schools, faults, wording). LANTERN_DATA overrides it; an installed
/// program looks in ../share/jolly-lantern beside its binary; a build tree uses the source folder.
std::filesystem::path dataFolder();

/// The folder of network files; LANTERN_MODELS overrides it.
std::filesystem::path modelFolder();

} // namespace jl
