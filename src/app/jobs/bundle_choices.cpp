#include "app/jobs/bundle_choices.h"
#include "base/day.h"
#include <array>

namespace jl
{
namespace
{

/// In the order of Decision.
constexpr std::array<std::string_view, 4> kNames{"proposed", "accepted", "parked", "set-aside"};

} // namespace

BundleChoice bundleChoice(const std::string& fault, const SlipChoice& choice)
{
    return {fault, std::string(kNames[static_cast<std::size_t>(choice.decision)]),
            choice.reason.toStdString(), choice.cue.toStdString(),
            dayFrom(choice.due.toString(Qt::ISODate).toStdString())};
}

SlipChoice slipChoice(const BundleChoice& choice)
{
    SlipChoice slip;
    for (std::size_t i = 0; i < kNames.size(); ++i)
        if (kNames[i] == choice.decision) slip.decision = static_cast<Decision>(i);
    slip.reason = QString::fromStdString(choice.reason);
    slip.cue = QString::fromStdString(choice.cue);
    if (choice.due) slip.due = QDate::fromString(QString::fromStdString(dayText(*choice.due)), Qt::ISODate);
    return slip;
}

} // namespace jl
