#pragma once
#include "lab/accuracy_report.h"
#include "lab/judgement.h"

namespace jl
{

/// Truth at one key moment of a filmed figure: per measure the interval between two definitions of a joint,
/// where the skeleton turns and the middle of the limb's section. What lies inside cannot be decided.
struct PeopleMoment {
    std::string posture, phase;
    Seconds time = 0; ///< s in the clip
    std::map<Measure, Band> truth;

    /// How far a value lies outside of the interval, signed; none where the truth is not known.
    std::optional<double> error(Measure measure, double value) const;
};

/// A clip of a figure that this program's renderer did not draw: NAME.mp4 with NAME.json beside it.
struct PeopleClip {
    std::filesystem::path video;
    std::string form;
    Side side = Side::Right;
    PersonProfile profile;
    std::vector<std::string> faults; ///< that the figure was asked to show
    std::vector<PeopleMoment> moments;
};

/// All clips of a folder. Those without truth have no form: they show none. A damaged file gives its name.
Result<std::vector<PeopleClip>> peopleClips(const std::filesystem::path& folder);

/// How the whole pipeline does on such clips.
struct PeopleReport {
    int clips = 0;
    std::vector<std::string> failed; ///< clip and reason
    Tally keyMoments;                ///< found within 0.15 s of the truth, of those shown
    std::vector<AccuracyRow> rows;   ///< by measure over all views, "all" last
    int cleanPostures = 0;
    std::map<std::string, int> falseFaults; ///< claimed in clean clips where the true value may be within
    std::map<std::string, Tally> asked;     ///< faults the figures were asked to show: claimed, of clips
    Tally otherMotion;                      ///< clips that show no form: refused or doubted
};

/// Judges every clip by itself. Extracted tracks are kept in the cache folder.
Result<PeopleReport> peopleReport(const ShippedData& data, const std::filesystem::path& folder,
                                  const NetworkChoice& networks, const std::filesystem::path& cache,
                                  const Progress& progress);

std::string peopleText(const PeopleReport& report);
std::string peopleJson(const PeopleReport& report);

} // namespace jl
