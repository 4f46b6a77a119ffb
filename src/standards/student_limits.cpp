#include "standards/student_limits.h"
#include "base/day.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// The stance that takes the place of one that these limits leave out.
StanceKind gentlerStance(const StudentLimits& limits, StanceKind stance)
{
    if (!limits.kicks && stance == StanceKind::OneLeg) return StanceKind::EmptyToe;
    if (!limits.lowStances && stance == StanceKind::Low) return StanceKind::Sit;
    if (!limits.lowStances && stance == StanceKind::BowLow) return StanceKind::Bow;
    return stance;
}

/// Options of what a gentler variant asks. The height lies between a crouch (61 to 63 % in every school) and
/// the lowest sit of the schools that ship (78 %).
constexpr Metres kFootStaysDown = 0.12; ///< m, how high a toe touch may lift the toes
constexpr Metres kFootTolerance = 0.15; ///< m, a raised foot is 0.3 m up or more and read to 0.05 to 0.09 m
constexpr Percent kHighStance = 72;     ///< %, of standing: a pelvis below it crouches

/// Whether a knee's bend is limited on the side of the body that this measure is about.
bool limitsKnee(const StudentLimits& limits, Measure measure, Side lead)
{
    if (!limits.kneeFlexion) return false;
    const Side side = measure == Measure::KneeLeadFlexion ? lead : other(lead);
    return !limits.kneeSide || *limits.kneeSide == side;
}

Band widened(const Band& band, double half)
{
    return {std::min(band.low, band.centre() - half), std::max(band.high, band.centre() + half),
            band.tolerance};
}

std::string degrees(double value)
{
    return std::to_string(std::lround(value)) + "\u00b0";
}

/// The deepest bend comes down to the limit, and with it the least that is asked.
Band shallower(const Band& band, double limit)
{
    if (band.high <= limit) return band;
    const double width = band.high - band.low;
    return {std::min(band.low, std::max(0.0, limit - width)), limit, band.tolerance};
}

} // namespace

PhaseAsked askedWithin(const StudentLimits& limits, const PhaseStandard& phase)
{
    PhaseAsked asked{phase, false};
    asked.phase.stance = gentlerStance(limits, phase.stance);
    asked.gentler = asked.phase.stance != phase.stance;
    if (asked.gentler) asked.phase.bands.clear(); // they are those of the variant that is left out
    return asked;
}

StudentLimits StudentLimits::inForceOn(std::chrono::sys_days day) const
{
    return until && day > *until ? StudentLimits{} : *this;
}

std::optional<Band> bandWithin(const StudentLimits& limits, const LimitedAt& at, Measure measure,
                               std::optional<Band> band, bool& capped)
{
    constexpr double highStep = 0.8;     // of the least length: a higher stance is a shorter one
    constexpr double kneeTolerance = 10; // deg
    const std::optional<Band> before = band;
    switch (measure) {
    case Measure::KneeLeadFlexion:
    case Measure::KneeRearFlexion:
        if (limitsKnee(limits, measure, at.lead))
            band = band ? shallower(*band, *limits.kneeFlexion) : Band{0, *limits.kneeFlexion, kneeTolerance};
        break;
    case Measure::PelvisHeight:
        if (limits.kneeFlexion && band) band->high = std::max(band->high, 100.0);
        if (at.gentler && at.inForm == StanceKind::Low) band = Band{kHighStance, 105, 6};
        break;
    case Measure::ToeLeadLift:
        if (at.gentler && at.inForm == StanceKind::OneLeg) band = Band{-0.1, kFootStaysDown, kFootTolerance};
        break;
    case Measure::StanceLength:
        if (limits.kneeFlexion && band) band->low *= highStep;
        break;
    case Measure::PelvisSquare:
    case Measure::WaistTwist:
        if (limits.squareWithin && band) band = widened(*band, *limits.squareWithin);
        break;
    default:
        break;
    }
    capped = band && (!before || before->low != band->low || before->high != band->high);
    return band;
}

std::vector<std::string> limitWords(const StudentLimits& l)
{
    std::vector<std::string> words;
    if (l.kneeFlexion)
        words.push_back((!l.kneeSide                 ? "knees bend up to "
                         : *l.kneeSide == Side::Left ? "the left knee bends up to "
                                                     : "the right knee bends up to ") +
                        degrees(*l.kneeFlexion) + ", in a higher and shorter stance");
    if (l.squareWithin)
        words.push_back("hips within " + degrees(*l.squareWithin) + " of square are good enough");
    if (!l.kicks) words.emplace_back("toe touch instead of a kick");
    if (!l.lowStances) words.emplace_back("high stance instead of a low one");
    if (!l.jumps) words.emplace_back("no jumps");
    if (!l.steady) words.emplace_back("a support within reach for one-leg work");
    if (l.until && !words.empty()) words.push_back("until " + dayText(*l.until));
    return words;
}

} // namespace jl
