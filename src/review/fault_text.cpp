#include "review/fault_text.h"
#include <algorithm>
#include <cctype>

namespace jl
{
namespace
{

bool names(const std::vector<std::string>& wanted, const std::string& id)
{
    return wanted.empty() || std::find(wanted.begin(), wanted.end(), id) != wanted.end();
}

constexpr std::string FaultWords::*kParts[]{&FaultWords::name, &FaultWords::title, &FaultWords::cue,
                                            &FaultWords::reason, &FaultWords::drill};

void replace(std::string& text, std::string_view from, const std::string& to)
{
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
}

} // namespace

FaultWords withSides(FaultWords words, const std::string& lead, const std::string& rear)
{
    for (std::string FaultWords::*part : kParts) {
        replace(words.*part, "{lead}", lead);
        replace(words.*part, "{rear}", rear);
        std::string& text = words.*part;
        if (!text.empty() && part == &FaultWords::title)
            text[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(text[0])));
    }
    return words;
}

bool FaultText::holds(const FaultContext& c) const
{
    return (!above || *above == c.above) && names(postures, c.posture) && names(levels, c.level) &&
           (stances.empty() || stances.contains(c.stance)) && (schools.empty() || c.school.includes(schools));
}

int FaultText::specificity() const
{
    return 16 * !postures.empty() + 8 * !stances.empty() + 4 * !schools.empty() + 2 * !levels.empty() +
           above.has_value();
}

FaultWords wordsFor(const FaultWords& own, const std::vector<FaultText>& texts, const FaultContext& context)
{
    std::vector<const FaultText*> holding;
    for (const FaultText& text : texts)
        if (text.holds(context)) holding.push_back(&text);
    std::stable_sort(holding.begin(), holding.end(), [](const FaultText* a, const FaultText* b) {
        return a->specificity() < b->specificity();
    });
    FaultWords words = own;
    for (const FaultText* text : holding)
        for (std::string FaultWords::*part : kParts)
            if (!(text->words.*part).empty()) words.*part = text->words.*part;
    return words;
}

} // namespace jl
