#pragma once
#include "base/result.h"
#include "lab/judgement.h"
#include <string>
#include <vector>

namespace jl
{

/// The figures of one judged set as they are kept beside docs/accuracy: one row of a CSV file.
struct JudgementSummary {
    std::string set;          ///< drawn (exact points with drawn errors), alone or together (rendered clips)
    std::string seed;         ///< of the set of cases
    Seconds medianError = 0;  ///< of key moments
    Tally keyMoments;         ///< within 0.15 s of the truth
    Tally phases, departures; ///< found, of those shown
    Tally falseDepartures;    ///< claimed, of cases in order
    Tally recall, precision, safety, root;
    Tally cleanFaults; ///< false faults, of postures in clean performances
    Tally cleanSafety; ///< false safety faults, of clean performances

    static JudgementSummary of(const JudgementReport& report, std::string set, std::string seed);
    /// Sums the counts; the median becomes the largest of both.
    void add(const JudgementSummary& other);
};

std::string judgementCsv(const std::vector<JudgementSummary>& rows);
/// Reads what judgementCsv() writes; `file` is named in errors.
Result<std::vector<JudgementSummary>> judgementFromCsv(const std::string& text, const std::string& file);

} // namespace jl
