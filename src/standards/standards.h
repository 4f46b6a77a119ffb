#pragma once
#include "base/result.h"
#include "base/units.h"
#include "body/landmark.h"
#include "measure/measure_id.h"
#include "standards/band.h"
#include "standards/stance_kind.h"
#include <array>
#include <filesystem>
#include <map>
#include <nlohmann/json_fwd.hpp>
#include <set>
#include <string>
#include <vector>

namespace jl
{

/// A school and those it extends, itself first: what is asked of one is asked of those that extend it.
struct SchoolLine {
    std::vector<std::string> ids;

    bool includes(const std::vector<std::string>& anyOf) const;
};

using Bands = std::map<Measure, Band>;

/// One phase of a posture; it ends at the key moment at which it is measured.
struct PhaseStandard {
    std::string id;
    std::string name;
    StanceKind stance = StanceKind::Parallel;
    std::string breath; ///< "in" or "out"
    Bands bands;        ///< own bands, over those of the stance kind; lengths in metres for a foot of 0.267 m
    std::string moves;  ///< the choreography of the phase as JSON text, read by the performer
};

/// What a posture is for, as a teacher shows it with a partner's hand.
struct PosturePurpose {
    std::string use;                   ///< one sentence
    std::string force;                 ///< where its force goes, one sentence
    std::array<double, 3> direction{}; ///< of the force: ahead, to the side that leads, up; zero: none
    std::string feel;                  ///< one thing to feel

    bool goesSomewhere() const { return direction != std::array<double, 3>{}; }
};

/// A caution for who practises some postures.
struct PostureCaution {
    std::string text;
    std::vector<std::string> postures; ///< ids
};

struct PostureStandard {
    std::string id;
    std::string name;
    std::vector<PhaseStandard> phases;
    /// What it usually follows, when it is practised alone; empty for standing.
    struct Before {
        std::string posture;
        bool otherSide = false; ///< led by the other side than this posture
        Degrees heading = 0;    ///< deg, its direction against this posture's when this is led by the right
    } after;
    PosturePurpose purpose; ///< empty words where an own posture does not say
};

/// A place of a posture in a form.
struct FormStep {
    std::string posture;
    Degrees heading = 0; ///< deg in the form as written, clockwise from above, 0 = where the form begins; it
                         ///< counts on through full turns, so that -270 is reached by turning left
    bool otherSide = false; ///< led by the side that does not lead the form
};

struct FormStandard {
    std::string id;
    std::string name;
    bool single = false;         ///< one posture practised alone, with what leads up to it
    std::vector<FormStep> steps; ///< as written for the right; led by the left, everything is mirrored

    Side leadOf(const FormStep& step, Side lead) const { return step.otherSide ? other(lead) : lead; }
    double headingOf(const FormStep& step, Side lead) const
    {
        return lead == Side::Right ? step.heading : -step.heading;
    }
};

/// How a school's own people move where the bands leave it open; the built-in performer follows it.
struct SchoolStyle {
    Degrees rearFootTurn = 45; ///< deg the rear foot opens in a forward stance
    Degrees toeLift = 0;       ///< deg the front toes rise when sitting back; 0 keeps the foot flat
    Percent height = 0;        ///< added to the pelvis height, % of standing
    Share step = 0.22;         ///< where in the band of the stance length a class's step lies, 0 to 1
    Ratio standing = 1.04;     ///< between the axes of feet that stand side by side, foot lengths
    std::map<std::string, double> hands; ///< "<posture>/<phase>": added to the hands' height, torso scale
};

/// Another way of a phase that a school accepts beside its own.
struct AcceptedVariant {
    std::string phase; ///< "<posture>/<phase>"
    std::string name;  ///< e.g. "a low push"
    Bands further;     ///< how far the variant goes below (low, 0 or less) and above (high) each band
};

/// What one school asks of each stance kind.
struct SchoolStandard {
    std::string id;
    std::string name;
    SchoolLine line;
    std::map<StanceKind, Bands> stances;
    std::set<std::pair<StanceKind, Measure>> inFootLengths; ///< bands whose lengths are in foot lengths
    SchoolStyle style;
    std::vector<AcceptedVariant> variants;

    /// Those of one phase.
    std::vector<const AcceptedVariant*> variantsOf(const std::string& posture,
                                                   const std::string& phase) const;
};

struct LevelStandard {
    std::string id;
    std::string name;
    std::vector<std::string> measures; ///< keys that are taught, or how they begin up to a dot; those of the
                                       ///< level it builds on come first

    /// How far a group knows a form: form id to the posture id up to whose first place it is taught. Forms
    /// that are not named are known as a whole.
    std::map<std::string, std::string> sections;

    bool teaches(std::string_view key) const;
};

/// All standards that ship, read from the data folder once and passed along.
struct Standards {
    std::vector<PostureStandard> postures;
    std::vector<FormStandard> forms;
    std::vector<SchoolStandard> schools;
    std::vector<LevelStandard> levels;
    std::vector<PostureCaution> cautions;

    /// Reads forms.json, schools/*.json and postures/*.json. A damaged file gives its name and place. Every
    /// posture is also a form of its own, under its own id.
    ///
    /// Files of the same names in the folder `own` are the instructor's: what has the id of something shipped
    /// takes its place, anything else is added. They are checked against the schemas first.
    static Result<Standards> load(const std::filesystem::path& folder, const std::filesystem::path& own = {});

    const PostureStandard* posture(const std::string& id) const;
    const FormStandard* form(const std::string& id) const;
    const SchoolStandard* school(const std::string& id) const;
    const LevelStandard* level(const std::string& id) const;

    /// The phase of a posture; both must exist.
    const PhaseStandard& phase(const std::string& posture, const std::string& phase) const;

    /// The bands that hold for a phase in a school, for a performer with the given foot length (m): the
    /// stance kind's bands with the phase's own over them.
    Bands bandsFor(const PhaseStandard& phase, const SchoolStandard& school, double footLength) const;
};

/// The ids of a list of standards, for messages.
template <class T>
std::vector<std::string> idsOf(const std::vector<T>& all)
{
    std::vector<std::string> ids;
    ids.reserve(all.size());
    for (const T& a : all)
        ids.push_back(a.id);
    return ids;
}

/// A wrong-use error that lists what there is, for ids a user typed.
Error unknownId(const std::string& kind, const std::string& id, const std::vector<std::string>& known);

} // namespace jl
