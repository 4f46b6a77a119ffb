#pragma once
#include "base/result.h"
#include "body/landmark.h"
#include "form/band.h"
#include "measure/measure_id.h"
#include <filesystem>
#include <map>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

namespace jl
{

using Bands = std::map<Measure, Band>;

/// One phase of a posture; it ends at the key moment at which it is measured.
struct PhaseStandard {
    std::string id;
    std::string name;
    std::string stance; ///< stance kind, e.g. "bow"
    std::string breath; ///< "in" or "out"
    Bands bands;        ///< own bands, over those of the stance kind; lengths in metres for a foot of 0.267 m
    std::string moves;  ///< the choreography of the phase as JSON text, read by the performer
};

struct PostureStandard {
    std::string id;
    std::string name;
    std::vector<PhaseStandard> phases;
};

/// A place of a posture in a form.
struct FormStep {
    std::string posture;
    double heading = 0; ///< deg in the form, clockwise from above, 0 = where the form begins
};

struct FormStandard {
    std::string id;
    std::string name;
    std::vector<FormStep> steps;
};

/// What one school asks of each stance kind.
struct SchoolStandard {
    std::string id;
    std::string name;
    std::map<std::string, Bands> stances;      ///< lengths marked "foot" are in foot lengths
    std::map<std::string, bool> inFootLengths; ///< "<stance>/<measure key>"
};

struct LevelStandard {
    std::string id;
    std::string name;
    std::vector<std::string> rungs; ///< measure keys looked at, by prefix
};

/// All standards that ship, read from the data folder once and passed along.
struct Standards {
    std::vector<PostureStandard> postures;
    std::vector<FormStandard> forms;
    std::vector<SchoolStandard> schools;
    std::vector<LevelStandard> levels;

    /// Reads forms.json, levels.json, schools/*.json and postures/*.json. A damaged file gives its name and
    /// place.
    static Result<Standards> load(const std::filesystem::path& folder);

    const PostureStandard* posture(const std::string& id) const;
    const FormStandard* form(const std::string& id) const;
    const SchoolStandard* school(const std::string& id) const;
    const LevelStandard* level(const std::string& id) const;

    /// The bands that hold for a phase in a school, for a performer with the given foot length (m): the
    /// stance kind's bands with the phase's own over them.
    Bands bandsFor(const PhaseStandard& phase, const SchoolStandard& school, double footLength) const;
};

/// The ids of a list of standards, for messages.
template <class T>
std::vector<std::string> idsOf(const std::vector<T>& all)
{
    std::vector<std::string> ids;
    for (const T& a : all)
        ids.push_back(a.id);
    return ids;
}

/// A wrong-use error that lists what there is, for ids a user typed.
Error unknownId(const std::string& kind, const std::string& id, const std::vector<std::string>& known);

} // namespace jl
