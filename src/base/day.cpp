#include "base/day.h"
#include <cstdio>

namespace jl
{

using namespace std::chrono;

std::string dayText(sys_days day)
{
    const year_month_day d(day);
    char text[32];
    std::snprintf(text, sizeof text, "%04d-%02u-%02u", static_cast<int>(d.year()),
                  static_cast<unsigned>(d.month()), static_cast<unsigned>(d.day()));
    return text;
}

std::optional<sys_days> dayFrom(const std::string& text)
{
    int y = 0;
    unsigned m = 0, d = 0;
    char rest = 0;
    const bool read = std::sscanf(text.c_str(), "%d-%u-%u%c", &y, &m, &d, &rest) == 3;
    const year_month_day day{year{y}, month{m}, std::chrono::day{d}};
    if (!read || !day.ok()) return {};
    return sys_days(day);
}

sys_days today()
{
    return floor<days>(system_clock::now());
}

} // namespace jl
