#include "review/side_difference.h"
#include <algorithm>
#include <cmath>
#include <map>

namespace jl
{
namespace
{

constexpr double kSurely = 2;        ///< uncertainties that a difference must exceed
constexpr double kWorthSaying = 0.5; ///< of the band's half-width
constexpr std::size_t kMost = 3;

/// What is compared, and how a larger value of one side is put into words.
struct Compared {
    Measure measure;
    const char* more; ///< "on the left ... by so much"
};
using enum Measure;
constexpr Compared kCompared[]{
    {StanceLength, "the step is longer"},
    {StanceWidth, "the stance is wider"},
    {KneeLeadFlexion, "the front knee bends deeper"},
    {KneeRearFlexion, "the back knee bends deeper"},
    {PelvisHeight, "the hips stay higher"},
    {WeightLead, "more weight comes to the front leg"},
    {FootRearAngle, "the back foot stays more open"},
    {TrunkLeanForward, "the trunk leans further forward"},
    {HipLeadFlexion, "the leg rises higher"},
    {ElbowLeadFlexion, "the front arm is rounder"},
    {HandLeadHeight, "the front hand is higher"},
    {ArmLeadReach, "the front arm reaches further"},
};

struct Mean {
    double sum = 0, variance = 0;
    int n = 0;
    double halfWidth = 0;

    void add(const JudgedValue& v)
    {
        sum += v.value.value - v.reference.value_or(0);
        variance += v.value.u * v.value.u - v.value.common * v.value.common;
        ++n;
        halfWidth = v.band->halfWidth();
    }
    double value() const { return sum / n; }
    double u() const { return std::sqrt(variance) / n; }
};

std::string amount(Measure m, double size, double u)
{
    const Unit unit = measureInfo(m).unit;
    const double scale = unit == Unit::Metre ? 100 : 1;
    const char* name = unit == Unit::Degree ? "\u00b0" : unit == Unit::Metre ? " cm" : " %";
    char text[64];
    std::snprintf(text, sizeof text, "%.0f%s (\u00b1%.0f)", scale * size, name, std::ceil(scale * u));
    return text;
}

/// What one measure shows in one phase, by the side that leads.
using Sides = std::array<Mean, 2>;

std::map<std::pair<std::string, std::string>, Sides> bothSides(const Review& review, Measure measure)
{
    std::map<std::pair<std::string, std::string>, Sides> phases;
    for (const ReviewedPosture& posture : review.postures)
        for (const ReviewedPhase& phase : posture.phases) {
            if (phase.values.empty() || phase.student.stance == StanceKind::Parallel) continue;
            const JudgedValue& v = phase.values[static_cast<std::size_t>(measure)];
            if (v.status == Status::Unseen || !v.band) continue;
            phases[{posture.id, phase.student.phase}][phase.student.lead == Side::Left ? 0 : 1].add(v);
        }
    return phases;
}

} // namespace

std::vector<SideDifference> sideDifferences(const Review& review)
{
    std::vector<SideDifference> all;
    for (const Compared& c : kCompared) {
        std::optional<SideDifference> clearest;
        for (const auto& [at, sides] : bothSides(review, c.measure)) {
            const auto& [left, right] = sides;
            if (!left.n || !right.n) continue;
            SideDifference d{
                c.measure, at.first, at.second, left.value() - right.value(), std::hypot(left.u(), right.u()),
                {}};
            const double size = std::abs(d.difference);
            if (size <= kSurely * d.u || size <= kWorthSaying * left.halfWidth) continue;
            if (clearest && size / d.u <= std::abs(clearest->difference) / clearest->u) continue;
            const char* side = d.difference > 0 ? "left" : "right";
            const auto posture =
                std::find_if(review.postures.begin(), review.postures.end(),
                             [&id = at.first](const ReviewedPosture& p) { return p.id == id; });
            d.words = std::string("With the ") + side + " side leading " + c.more + ": by " +
                      amount(c.measure, size, d.u) + " in \"" + posture->name + "\".";
            clearest = std::move(d);
        }
        if (clearest) all.push_back(std::move(*clearest));
    }
    std::stable_sort(all.begin(), all.end(), [](const SideDifference& a, const SideDifference& b) {
        return std::abs(a.difference) / a.u > std::abs(b.difference) / b.u;
    });
    if (all.size() > kMost) all.resize(kMost);
    return all;
}

} // namespace jl
