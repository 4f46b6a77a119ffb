#pragma once
#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string_view>

namespace jl
{

/// The kinds of stance in which phases end, in the order of their names in files.
enum class StanceKind {
    BackStep,
    Bow,
    BowLow,
    EmptyHeel,
    EmptyToe,
    Low,
    OneLeg,
    Parallel,
    Passing,
    Sideways,
    Sit,
    Step,
};
inline constexpr std::size_t kStanceKindCount = 12;

/// As in data files, e.g. "bow-low".
std::string_view stanceName(StanceKind stance);
std::optional<StanceKind> stanceFromName(std::string_view name);

/// Whether the hands arrive with the touch of the leading foot, rather than with the weight: in stances that
/// leave that foot empty.
constexpr bool handsMeetFoot(StanceKind stance)
{
    return stance == StanceKind::EmptyHeel || stance == StanceKind::EmptyToe;
}

/// Some kinds of stance.
class StanceSet
{
public:
    constexpr StanceSet() = default;
    constexpr StanceSet(std::initializer_list<StanceKind> stances)
    {
        for (StanceKind s : stances)
            insert(s);
    }
    constexpr void insert(StanceKind s) { m_bits |= bit(s); }
    constexpr bool contains(StanceKind s) const { return (m_bits & bit(s)) != 0; }
    constexpr bool empty() const { return m_bits == 0; }
    constexpr bool operator==(const StanceSet&) const = default;

private:
    static constexpr std::uint32_t bit(StanceKind s) { return 1U << static_cast<unsigned>(s); }
    std::uint32_t m_bits = 0;
};

} // namespace jl
