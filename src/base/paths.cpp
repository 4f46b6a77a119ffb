#include "base/paths.h"
#include <cstdlib>

namespace jl
{
namespace
{

std::filesystem::path shipped(const char* variable, const char* folder)
{
    if (const char* set = std::getenv(variable)) return set;
    std::error_code ignored;
    const auto self = std::filesystem::read_symlink("/proc/self/exe", ignored);
    auto installed = self.parent_path().parent_path() / "share/jolly-lantern" / folder;
    if (!self.empty() && std::filesystem::exists(installed, ignored)) return installed;
    return std::filesystem::path(LANTERN_SOURCE_DIR) / folder;
}

} // namespace

std::filesystem::path dataFolder()
{
    return shipped("LANTERN_DATA", "data");
}

std::filesystem::path modelFolder()
{
    return shipped("LANTERN_MODELS", "models");
}

} // namespace jl
