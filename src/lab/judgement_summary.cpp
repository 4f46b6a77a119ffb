#include "lab/judgement_summary.h"
#include <algorithm>
#include <array>
#include <sstream>

namespace jl
{
namespace
{

constexpr std::string_view kHeader =
    "set,seed,key_median_s,key_within_0.15,key_n,phases_found,phases,departures_found,departures,"
    "departures_false,orderly_cases,recall_good,recall_n,precision_good,precision_n,safety_good,safety_n,"
    "root_good,root_n,clean_false,clean_postures,clean_false_safety,clean_cases";

/// The counts in the order of the columns.
template <class Summary>
auto tallies(Summary& s)
{
    return std::array{&s.keyMoments, &s.phases, &s.departures, &s.falseDepartures, &s.recall,
                      &s.precision,  &s.safety, &s.root,       &s.cleanFaults,     &s.cleanSafety};
}

bool readCount(std::istream& in, int& count)
{
    std::string cell;
    if (!std::getline(in, cell, ',') || cell.empty()) return false;
    if (!std::ranges::all_of(cell, [](char c) { return c >= '0' && c <= '9'; }) || cell.size() > 8)
        return false;
    count = std::stoi(cell);
    return true;
}

bool readRow(const std::string& line, JudgementSummary& s)
{
    std::istringstream in(line);
    std::string median;
    if (!std::getline(in, s.set, ',') || !std::getline(in, s.seed, ',') || !std::getline(in, median, ','))
        return false;
    std::istringstream number(median);
    if (!(number >> s.medianError)) return false;
    return std::ranges::all_of(tallies(s),
                               [&](Tally* t) { return readCount(in, t->good) && readCount(in, t->all); });
}

} // namespace

JudgementSummary JudgementSummary::of(const JudgementReport& r, std::string set, std::string seed)
{
    JudgementSummary s;
    s.set = std::move(set);
    s.seed = std::move(seed);
    const auto& errors = r.keyMomentErrors; // sorted
    if (!errors.empty()) s.medianError = errors[errors.size() / 2];
    s.keyMoments = {static_cast<int>(std::ranges::count_if(errors, [](double e) { return e <= 0.15; })),
                    static_cast<int>(errors.size())};
    s.phases = r.phasesFound;
    s.departures = r.sequence;
    s.falseDepartures = {r.falseSequence, r.orderKept};
    s.recall = r.recall;
    s.precision = r.precision;
    s.safety = r.safetyPrecision;
    s.root = r.rootCauseFirst;
    s.cleanFaults = {r.cleanFaults, r.cleanPostures};
    s.cleanSafety = {r.cleanSafety, r.cleanCases};
    return s;
}

void JudgementSummary::add(const JudgementSummary& other)
{
    medianError = std::max(medianError, other.medianError);
    const auto own = tallies(*this);
    const auto more = tallies(other);
    for (std::size_t i = 0; i < own.size(); ++i) {
        own[i]->good += more[i]->good;
        own[i]->all += more[i]->all;
    }
}

std::string judgementCsv(const std::vector<JudgementSummary>& rows)
{
    std::ostringstream out;
    out << kHeader << '\n';
    for (const JudgementSummary& s : rows) {
        out << s.set << ',' << s.seed << ',' << s.medianError;
        for (const Tally* t : tallies(s))
            out << ',' << t->good << ',' << t->all;
        out << '\n';
    }
    return out.str();
}

Result<std::vector<JudgementSummary>> judgementFromCsv(const std::string& text, const std::string& file)
{
    std::istringstream in(text);
    std::string line;
    std::vector<JudgementSummary> rows;
    int number = 0;
    while (std::getline(in, line)) {
        if (++number == 1 && line == kHeader) continue;
        rows.emplace_back();
        if (number == 1 || !readRow(line, rows.back()))
            return Error{Error::Kind::BadInput,
                         "line " + std::to_string(number) + " is not one of a table of judged sets", file,
                         "Write it again with validate --judgement --csv."};
    }
    return rows;
}

} // namespace jl
