#pragma once
#include "base/units.h"
#include "lab/judgement_cases.h"
#include "lab/lab_data.h"
#include "pipeline/make_review.h"
#include "vision/network_store.h"
#include <filesystem>

namespace jl
{

/// So many of so many.
struct Tally {
    int good = 0, all = 0;

    void add(bool isGood)
    {
        ++all;
        good += isGood;
    }
    double share() const { return all ? static_cast<double>(good) / all : 1; }
};

/// How well performances were judged, summed over cases.
struct JudgementReport {
    int cases = 0, failed = 0;
    std::vector<Seconds> keyMomentErrors; ///< s, of every phase that was shown and found
    Tally phasesFound;                    ///< of those that were shown
    Tally sequence;                       ///< departures from the form's order that were found
    int falseSequence = 0;                ///< claimed where the order was kept
    int orderKept = 0;                    ///< cases in which it was
    Tally recall; ///< faults that the view can show and that are at 1.5 times what is allowed
    Tally recallBeyondUncertainty; ///< of these, the ones out of the band by twice their uncertainty or more
    Tally precision;               ///< claimed faults whose true value is out of the band
    Tally safetyPrecision;
    int cleanPostures = 0, cleanCases = 0;
    int cleanFaults = 0, cleanSafety = 0; ///< claimed in clean performances, where the true value is within
    Tally rootCauseFirst;                 ///< chains of which what is taught begins with the root
    std::map<std::string, Tally> recallOf, precisionOf; ///< by fault
    /// By kind of stance, and by family of measures: a fault counts once in each stance in which it is
    /// visible.
    std::map<std::string, Tally> recallIn, precisionIn;
};

/// Judges every case with the whole pipeline, on exact points with the networks' usual errors.
JudgementReport judgeCases(const LabData& data, const std::vector<JudgementCase>& cases,
                           const Progress& progress);

/// The same from pictures: of rendered clips, each by itself, and of those that follow each other and film
/// one performance at once, both together.
struct RenderedJudgement {
    JudgementReport alone, together;
};
RenderedJudgement judgeRendered(const ShippedData& data, const std::vector<ValidationCase>& cases,
                                const NetworkChoice& networks, const std::filesystem::path& cache,
                                const Progress& progress);

std::string judgementJson(const JudgementReport& report);
std::string judgementText(const JudgementReport& report);

} // namespace jl
