#include "base/time_left.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace jl
{
namespace
{

std::string numberWord(long n)
{
    constexpr std::array words{"no",  "one",   "two",   "three", "four", "five",
                               "six", "seven", "eight", "nine",  "ten"};
    return n < static_cast<long>(words.size()) ? words[static_cast<std::size_t>(n)] : std::to_string(n);
}

} // namespace

std::string waitWords(double seconds)
{
    if (seconds < 10) return "a few seconds";
    if (seconds < 45) return "about half a minute";
    const long minutes = std::max(1L, std::lround(seconds / 60));
    if (minutes == 1) return "about a minute";
    if (minutes < 55) return "about " + numberWord(minutes) + " minutes";
    const long hours = std::max(1L, std::lround(seconds / 3600));
    return hours == 1 ? "about an hour" : "about " + numberWord(hours) + " hours";
}

std::string TimeLeft::words(double share) const
{
    return words(share, std::chrono::duration<double>(std::chrono::steady_clock::now() - m_begin).count());
}

std::string TimeLeft::words(double share, double spent)
{
    if (spent < 1 || share < 0.02 || share >= 1) return {};
    return waitWords(spent / share - spent) + " left";
}

} // namespace jl
