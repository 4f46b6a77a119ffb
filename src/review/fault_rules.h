#pragma once
#include "base/result.h"
#include "review/fault_text.h"
#include "standards/band.h"
#include <filesystem>
#include <string>
#include <vector>

namespace jl
{

enum class Severity { Watch, Fault, Safety };
std::string_view severityName(Severity s);

/// On which side of its band a value is a fault. Lead and Rear: of measures that count to the right as
/// positive, turned or moved towards the side that leads the posture, or the other. Short and Over: of turns,
/// towards no turn, or further than asked.
enum class Edge { Low, High, Both, Lead, Rear, Short, Over };

/// One row of data/faults.json: when something counts as a fault, what may cause it, and what is said about
/// it. A rule is about a measure of a moment, about one of a phase as a whole, or, with neither, about the
/// order in which postures are done.
struct FaultRule {
    std::string id;
    std::optional<Measure> measure;
    std::optional<PhaseMeasure> whole;
    Edge edge = Edge::High;
    double margin = 0;          ///< beyond the band by up to this it is only watched
    bool marginIsShare = false; ///< of the band's half-width, instead of in the measure's unit
    /// So many times as far beyond its uncertainty as others must it stand out to be a fault: above 1 for
    /// measures whose errors are heavy-tailed.
    double doubt = 1;
    double tolerance = 0;          ///< where no school says it: how far off the reference's value is allowed
    bool toleranceIsShare = false; ///< of the reference's value, instead of in the measure's unit
    double least = 0;              ///< asked only where the reference has at least so much, by size
    std::optional<double>
        limit;             ///< with a tolerance: where the allowed range ends for everybody on this side
    bool safety = false;   ///< shown at every level; its band is never moved by a reference
    bool ofLimits = false; ///< holds only where a student's limits set the band
    bool safetyIfUnsteady = false;       ///< a matter of safety for students who must not fall
    StanceSet stances;                   ///< in which the rule holds; none: in all
    std::vector<std::string> schools;    ///< that ask for it, with those that extend them; none: all
    std::vector<std::string> notSchools; ///< that do not ask for it, nor those that extend them
    struct Cause {
        std::string fault;
        double prior = 1; ///< how likely it is the cause where both are present, 0 to 1
    };
    std::vector<Cause> causes; ///< the likeliest first
    FaultWords words;
    std::vector<FaultText> texts; ///< for some circumstances
    double drillMinutes = 3;
    bool drillBothSides = true;

    bool holdsIn(StanceKind stance) const;
    bool askedBy(const SchoolLine& school) const;
    /// A value's excess over its band, so that the rule's upper edge is positive whichever side leads.
    double oriented(double excess, const Band& band, Side lead) const;
    /// Whether an oriented excess is one that the rule is about.
    bool concerns(double orientedExcess) const;
    double marginOf(const Band& band) const { return marginIsShare ? margin * band.halfWidth() : margin; }
    FaultWords wordsIn(const FaultContext& context) const { return wordsFor(words, texts, context); }
    /// The name where no moment is at hand: sides are called front and back.
    std::string plainName() const { return withSides(words, "front", "back").name; }
};

class FaultRules
{
public:
    /// Reads faults.json; a file of that name in `own` holds the instructor's, which take the place of those
    /// with the same ids or join them, checked against the schema first.
    static Result<FaultRules> load(const std::filesystem::path& folder,
                                   const std::filesystem::path& own = {});
    const std::vector<FaultRule>& all() const { return m_rules; }
    const FaultRule* find(const std::string& id) const;

    /// What the rules of a school allow around a reference's value where the school has no band of its own.
    std::optional<Band> band(Measure m, StanceKind stance, const SchoolLine& school, double reference) const;
    std::optional<Band> band(PhaseMeasure m, StanceKind stance, const SchoolLine& school,
                             double reference) const;

private:
    Result<Done> read(const std::filesystem::path& file);

    std::vector<FaultRule> m_rules;
};

} // namespace jl
