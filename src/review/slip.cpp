#include "review/slip.h"
#include "base/day.h"
#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <set>
#include <string_view>

namespace jl
{
namespace
{

/// "in 3 of 5 places, where the right leads"
std::string oftenOf(const Review& review, const Correction& c)
{
    if (c.outOf == 0) return {};
    std::set<Side> shows, could;
    for (const ReviewedPosture& posture : review.postures)
        for (const ReviewedPhase& phase : posture.phases)
            if (phase.student.matched) could.insert(phase.student.lead);
    for (const Finding& f : review.findings)
        if (f.fault == c.fault) shows.insert(review.postures[f.posture].phases[f.phase].student.lead);
    std::string words = "in " + std::to_string(c.count) + " of " + std::to_string(c.outOf) +
                        (c.outOf == 1 ? " place" : " places");
    if (could.size() == 2 && shows.size() == 1)
        words += *shows.begin() == Side::Left ? ", where the left leads" : ", where the right leads";
    return words;
}

/// The finding whose moment a correction shows; none for an own finding.
const Finding* findingOf(const Review& review, const Correction& c)
{
    const Finding* nearest = nullptr;
    for (const Finding& f : review.findings)
        if (f.fault == c.fault && (!nearest || std::abs(f.time - c.time) < std::abs(nearest->time - c.time)))
            nearest = &f;
    return nearest;
}

/// "Push, separate and sit"; once where both have one name.
std::string placeOf(const ReviewedPosture& posture, const ReviewedPhase& phase)
{
    const auto sameLetter = [](char a, char b) { return std::tolower(a) == std::tolower(b); };
    return std::ranges::equal(posture.name, phase.name, sameLetter) ? posture.name
                                                                    : posture.name + ", " + phase.name;
}

SlipItem itemOf(const Review& review, const ChosenCorrection& chosen)
{
    const Correction& c = chosen.correction;
    SlipItem item{
        c.fault, c.title,    chosen.cue.empty() ? c.cue : chosen.cue, c.reason, c.drill, {}, {}, {}, c.time,
        {},      review.side};
    const Finding* finding = findingOf(review, c);
    if (!finding) return item;
    const ReviewedPosture& posture = review.postures[finding->posture];
    const ReviewedPhase& phase = posture.phases[finding->phase];
    item.often = oftenOf(review, c);
    item.place = placeOf(posture, phase);
    item.purpose = posture.purpose.use;
    item.measure = finding->measure;
    item.lead = phase.student.lead;
    item.postureId = posture.id;
    item.phaseId = phase.student.phase;
    return item;
}

std::vector<std::string> betterSince(const ProgressSince* progress, const FaultRules& rules)
{
    std::vector<std::string> lines;
    if (!progress) return lines;
    for (const FaultChange& f : progress->faults)
        if (const FaultRule* rule = rules.find(f.fault); rule && f.change == Change::Better)
            lines.push_back(rule->words.title + " (" + f.words + ")");
    return lines;
}

/// "14 March"
std::string shortDay(std::chrono::sys_days day)
{
    const std::string words = dayWords(day);
    return words.substr(0, words.rfind(' '));
}

std::string practiceLine(const PlannedDay& day)
{
    constexpr const char* names[]{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
    std::string line = names[std::chrono::weekday(day.date).c_encoding()];
    line += " " + shortDay(day.date) + ", " + std::to_string(std::lround(day.minutes())) + " min: ";
    for (std::size_t i = 0; i < day.items.size(); ++i)
        line += (i > 0 ? "; " : "") + day.items[i].title;
    return line;
}

/// "00:01:02.345"
std::string vttTime(Seconds t)
{
    const long ms = std::lround(1000 * std::max(0.0, t));
    char text[32];
    std::snprintf(text, sizeof text, "%02ld:%02ld:%02ld.%03ld", ms / 3600000, ms / 60000 % 60, ms / 1000 % 60,
                  ms % 1000);
    return text;
}

/// Markup of WebVTT in words that people wrote.
std::string vttWords(const std::string& words)
{
    std::string safe;
    for (const char c : words)
        switch (c) {
        case '&':
            safe += "&amp;";
            break;
        case '<':
            safe += "&lt;";
            break;
        case '>':
            safe += "&gt;";
            break;
        case '\n':
        case '\r':
            safe += ' '; // an empty line would end the cue
            break;
        default:
            safe += c;
        }
    return safe;
}

} // namespace

std::string dayWords(std::chrono::sys_days day)
{
    constexpr const char* months[]{"January", "February", "March",     "April",   "May",      "June",
                                   "July",    "August",   "September", "October", "November", "December"};
    const std::chrono::year_month_day ymd(day);
    return std::to_string(static_cast<unsigned>(ymd.day())) + " " +
           months[static_cast<unsigned>(ymd.month()) - 1] + " " +
           std::to_string(static_cast<int>(ymd.year()));
}

std::vector<ChosenCorrection> asProposed(const Review& review)
{
    std::vector<ChosenCorrection> chosen;
    for (const Correction& c : review.teach)
        chosen.push_back({c, {}});
    return chosen;
}

Slip slipOf(const Review& review, const FaultRules& rules, const ProgressSince* progress,
            const SlipRequest& request)
{
    Slip slip{request.student, request.form, request.day, betterSince(progress, rules), {}, {},
              review.cautions};
    for (const ChosenCorrection& c : request.corrections)
        slip.items.push_back(itemOf(review, c));
    for (const PlannedDay& day : request.practice)
        slip.practice.push_back(practiceLine(day));
    return slip;
}

std::string slipFileName(const Slip& slip)
{
    std::string name;
    for (const char c :
         dayText(slip.day) + " " + (slip.student.empty() ? "" : slip.student + ", ") + slip.form)
        if (static_cast<unsigned char>(c) >= ' ' &&
            std::string_view("/\\:*?\"<>|").find(c) == std::string_view::npos)
            name += c;
    return name;
}

std::string drillLine(const SlipItem& item)
{
    return item.drill.empty() ? std::string() : "Practise: " + item.drill;
}

std::string oftenLine(const SlipItem& item)
{
    return item.often.empty() ? std::string() : "Seen " + item.often + ".";
}

std::string purposeLine(const SlipItem& item)
{
    return item.purpose.empty() ? std::string() : item.place + ": " + item.purpose;
}

std::string slipText(const Slip& slip)
{
    std::string text =
        (slip.student.empty() ? "" : slip.student + ", ") + slip.form + ", " + dayWords(slip.day) + "\n";
    const auto list = [&](std::string_view heading, const std::vector<std::string>& lines) {
        if (lines.empty()) return;
        text += "\n" + std::string(heading) + "\n";
        for (const std::string& line : lines)
            text += "- " + line + "\n";
    };
    const auto line = [&](const std::string& words) { text += words.empty() ? "" : "   " + words + "\n"; };
    list(kSlipWords.better, slip.better);
    if (slip.items.empty()) text += "\n" + std::string(kSlipWords.nothing) + "\n";
    for (std::size_t i = 0; i < slip.items.size(); ++i) {
        const SlipItem& item = slip.items[i];
        text += "\n" + std::to_string(i + 1) + ". " + item.title + "\n   " + item.cue + "\n";
        if (!item.reason.empty()) line("Why: " + item.reason);
        line(drillLine(item));
        line(oftenLine(item));
        line(purposeLine(item));
    }
    list(kSlipWords.practice, slip.practice);
    list(kSlipWords.cautions, slip.cautions);
    return text;
}

std::string captionsOf(const Review& review, const Slip& slip, Seconds duration)
{
    constexpr Seconds cueLasts = 4;
    struct Caption {
        Seconds from, to;
        std::string words;
    };
    std::vector<Caption> captions;
    for (const ReviewedPosture& posture : review.postures) {
        const auto first = std::find_if(posture.phases.begin(), posture.phases.end(),
                                        [](const ReviewedPhase& p) { return p.student.matched; });
        const auto last = std::find_if(posture.phases.rbegin(), posture.phases.rend(),
                                       [](const ReviewedPhase& p) { return p.student.matched; });
        if (first != posture.phases.end())
            captions.push_back({first->student.begin, last->student.time, posture.name});
    }
    for (const SlipItem& item : slip.items)
        captions.push_back({item.time, std::min(duration, item.time + cueLasts), item.cue});
    std::stable_sort(captions.begin(), captions.end(),
                     [](const Caption& a, const Caption& b) { return a.from < b.from; });
    std::string text = "WEBVTT\n";
    for (const Caption& c : captions)
        if (c.to > c.from)
            text += "\n" + vttTime(c.from) + " --> " + vttTime(c.to) + "\n" + vttWords(c.words) + "\n";
    return text;
}

} // namespace jl
