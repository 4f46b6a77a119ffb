#include "standards/stance_kind.h"
#include <algorithm>
#include <array>

namespace jl
{
namespace
{

constexpr std::array<std::string_view, kStanceKindCount> kNames{"back-step", "bow",  "bow-low", "empty-heel",
                                                                "empty-toe", "low",  "one-leg", "parallel",
                                                                "passing",   "side", "sit",     "step"};

} // namespace

std::string_view stanceName(StanceKind stance)
{
    return kNames[static_cast<std::size_t>(stance)];
}

std::optional<StanceKind> stanceFromName(std::string_view name)
{
    const auto found = std::find(kNames.begin(), kNames.end(), name);
    if (found == kNames.end()) return {};
    return static_cast<StanceKind>(found - kNames.begin());
}

} // namespace jl
