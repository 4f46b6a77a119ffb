#pragma once
#include "base/result.h"
#include "base/units.h"
#include "lab/validation.h"

namespace jl
{

/// All errors of one measure, of a moment or of a phase, from one view.
struct ErrorGroup {
    std::string view, key, unit; ///< unit: deg, m, %, s, m2, m/s or empty
    std::vector<double> error;   ///< of values that were given
    std::vector<double> u;       ///< of the same
    std::vector<bool> certain;   ///< of the same: given with status ok
    int unseen = 0;              ///< values that were not given

    std::vector<double> unrated; ///< errors of values that have no uncertainty yet; for fitting the table
};

/// The errors of all values given, by view and measure.
std::vector<ErrorGroup> errorGroups(const std::vector<CaseOutcome>& outcomes);

/// Share of the errors that are none at all, as of a count that is right.
double shareExact(const std::vector<double>& errors);

/// Accuracy of one measure from one view.
struct AccuracyRow {
    std::string view, key, unit;
    int n = 0;      ///< values reported
    int unseen = 0; ///< values not reported
    double bias = 0, sd = 0, p90 = 0;
    Share coverage = 0;    ///< share of true values within 2 u
    Share beyondThree = 0; ///< share of true values beyond 3 u
    double meanU = 0;
    int certain = 0;                               ///< values reported with status ok
    double certainP90 = 0, certainBeyondThree = 0; ///< of those
    Share exact = 0;                               ///< share of values without any error
};

/// What the errors of one group, or of all, come to.
AccuracyRow accuracyRow(const ErrorGroup& group);
std::vector<AccuracyRow> accuracyRows(const std::vector<CaseOutcome>& outcomes);

/// The share of true values that should lie within 2 u, and of certain ones that may lie beyond 3 u.
constexpr double kLeastCovered = 0.93, kMostCovered = 0.97, kMostBeyond = 0.01;

constexpr int kFewestToTell = 50; ///< values, and certain values, from which such shares are given

/// Whether a row's share within 2 u is as wanted. Where 93 % are exactly right, like pauses counted, no
/// uncertainty, however narrow, leaves those out: there more than 97 % is as wanted too.
bool isCoveredAsWanted(const AccuracyRow& row);

/// The same, and that of the certain values beyond 3 u too, if there are enough.
bool isAsWanted(const AccuracyRow& row);

/// The probability of k or fewer successes in n trials that each succeed with probability p.
double binomialAtMost(int k, int n, double p);

/// How honest the uncertainties are, of the rows with 50 values or more.
struct CoverageSummary {
    int rows = 0, within = 0; ///< rows, and those with isCoveredAsWanted()
    /// Rows whose share cannot be as wanted by the chance of so many values (binomial, 5 %): too few true
    /// values within 2 u, or needlessly many.
    int tooFew = 0, tooMany = 0;
    int certainRows = 0; ///< rows with 50 certain values or more
    int beyond = 0;      ///< of those, rows with more than 1 % beyond 3 u
    int longTails = 0;   ///< of those, rows with more than chance lets 1 % be (binomial, 5 %)
};
CoverageSummary coverageOf(const std::vector<AccuracyRow>& rows);

/// The table as text for people, as JSON, and as CSV for the record.
std::string accuracyText(const std::vector<AccuracyRow>& rows);
std::string accuracyJson(const std::vector<AccuracyRow>& rows);
std::string accuracyCsv(const std::vector<AccuracyRow>& rows);
/// Reads what accuracyCsv() writes; `file` is named in errors.
Result<std::vector<AccuracyRow>> accuracyFromCsv(const std::string& text, const std::string& file);

} // namespace jl
