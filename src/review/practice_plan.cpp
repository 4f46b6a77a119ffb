#include "review/practice_plan.h"
#include <algorithm>
#include <cmath>
#include <numeric>

namespace jl
{
namespace
{

constexpr double kLoosening = 2; ///< minutes
constexpr double kLeastRun = 1;  ///< minutes
constexpr double kLeastADay = 5; ///< minutes
constexpr int kDaily = 3;        ///< days
constexpr int kSecondDay = 2, kWeek = 7;

std::string sidesOf(const PracticeDrill& d, Side weak)
{
    if (!d.bothSides) return d.drill;
    return d.drill +
           (weak == Side::Left ? " Left side first, then the right." : " Right side first, then the left.");
}

} // namespace

double PlannedDay::minutes() const
{
    return std::accumulate(items.begin(), items.end(), 0.0,
                           [](double sum, const PlannedItem& i) { return sum + i.minutes; });
}

PracticeDrill drillOf(const Correction& c, const FaultRules& rules, std::chrono::sys_days day)
{
    const FaultRule* rule = rules.find(c.fault);
    const FaultRule usual; // of what the instructor saw herself
    if (!rule) rule = &usual;
    return {c.fault, c.title, c.drill, rule->drillMinutes, rule->drillBothSides, day, false};
}

bool isDue(const PracticeDrill& drill, std::chrono::sys_days day)
{
    const auto since = (day - drill.begun).count();
    if (since < 0) return false;
    if (since < kDaily) return true;
    return (since - (kDaily - 1)) % (drill.inBand ? kWeek : kSecondDay) == 0;
}

PracticeDrill afterReview(PracticeDrill drill, bool found, std::chrono::sys_days day)
{
    if (found && drill.inBand) drill.begun = day;
    drill.inBand = !found;
    return drill;
}

Result<std::vector<PlannedDay>> planPractice(const PlanRequest& r)
{
    if (r.minutesPerDay < kLeastADay)
        return Error{Error::Kind::WrongUse, "a day's practice needs at least five minutes", "",
                     "Give more minutes a day."};
    const double run = std::clamp(r.runMinutes, kLeastRun, r.minutesPerDay - kLoosening - kLeastRun);
    std::vector<PlannedDay> plan;
    std::vector<const PracticeDrill*> waiting; // from the day before
    for (int i = 0; i < r.days; ++i) {
        PlannedDay day{r.first + std::chrono::days(i), {}};
        day.items.push_back({PlannedItem::Kind::Loosening, "", "Loosen up",
                             "Circle ankles, knees, hips, waist and shoulders; shake out arms and legs.",
                             kLoosening});
        double left = r.minutesPerDay - kLoosening - run;
        std::vector<const PracticeDrill*> turn = waiting;
        for (const PracticeDrill& d : r.drills)
            if (isDue(d, day.date) && std::find(turn.begin(), turn.end(), &d) == turn.end())
                turn.push_back(&d);
        waiting.clear();
        for (const PracticeDrill* d : turn) {
            // The most important one is shortened rather than left out.
            const double minutes = day.items.size() == 1 ? std::min(d->minutes, left) : d->minutes;
            if (minutes > left + 1e-9) {
                waiting.push_back(d);
                continue;
            }
            day.items.push_back(
                {PlannedItem::Kind::Drill, d->fault, d->title, sidesOf(*d, r.weakSide), minutes});
            left -= minutes;
        }
        day.items.push_back({PlannedItem::Kind::SlowRun, "", "Slow run",
                             "Once through " + r.section + ", slowly, thinking of one thing only.", run});
        plan.push_back(std::move(day));
    }
    return plan;
}

} // namespace jl
