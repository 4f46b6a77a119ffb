#include "exchange/plan_calendar.h"
#include "base/json_file.h"
#include <cmath>
#include <cstdio>
#include <libical/ical.h>
#include <memory>

namespace jl
{
namespace
{

icaltimetype dateOf(std::chrono::sys_days day)
{
    const std::chrono::year_month_day ymd(day);
    icaltimetype t = icaltime_null_date();
    t.year = static_cast<int>(ymd.year());
    t.month = static_cast<int>(static_cast<unsigned>(ymd.month()));
    t.day = static_cast<int>(static_cast<unsigned>(ymd.day()));
    return t;
}

std::string wordsOf(const PlannedDay& day)
{
    std::string text;
    for (const PlannedItem& item : day.items) {
        char minutes[32];
        std::snprintf(minutes, sizeof minutes, "%.3g min  ", item.minutes);
        text += (text.empty() ? "" : "\n") + std::string(minutes) + item.title + ": " + item.words;
    }
    return text;
}

icalcomponent* eventOf(const PlannedDay& day, const std::string& title, std::size_t number)
{
    icaltimetype stamp = dateOf(day.date);
    stamp.is_date = 0;
    stamp.zone = icaltimezone_get_utc_timezone();
    const icaltimetype date = dateOf(day.date);
    const std::string uid =
        std::string(icaltime_as_ical_string(date)) + "-" + std::to_string(number) + "@jolly-lantern";
    const std::string summary = title + ", " + std::to_string(std::lround(day.minutes())) + " min";
    return icalcomponent_vanew(ICAL_VEVENT_COMPONENT, icalproperty_new_uid(uid.c_str()),
                               icalproperty_new_dtstamp(stamp), icalproperty_new_dtstart(date),
                               icalproperty_new_summary(summary.c_str()),
                               icalproperty_new_description(wordsOf(day).c_str()),
                               icalproperty_new_transp(ICAL_TRANSP_TRANSPARENT), nullptr);
}

} // namespace

std::string calendarText(const std::vector<PlannedDay>& plan, const std::string& title)
{
    const std::unique_ptr<icalcomponent, decltype(&icalcomponent_free)> calendar(
        icalcomponent_vanew(ICAL_VCALENDAR_COMPONENT, icalproperty_new_version("2.0"),
                            icalproperty_new_prodid("-//Jolly Lantern//Practice plan//EN"), nullptr),
        icalcomponent_free);
    for (std::size_t i = 0; i < plan.size(); ++i)
        icalcomponent_add_component(calendar.get(), eventOf(plan[i], title, i));
    return icalcomponent_as_ical_string(calendar.get());
}

Result<Done> writeCalendar(const std::vector<PlannedDay>& plan, const std::string& title,
                           const std::filesystem::path& file)
{
    return writeText(file, calendarText(plan, title));
}

} // namespace jl
