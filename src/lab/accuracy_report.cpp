#include "lab/accuracy_report.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>
#include <sstream>

namespace jl
{
namespace
{

std::string unitOf(Measure m)
{
    const Unit unit = measureInfo(m).unit;
    return unit == Unit::Metre ? "m" : unit == Unit::Degree ? "deg" : "%";
}

/// The size of the errors that nine in ten stay within.
double nineInTen(std::vector<double> sizes)
{
    if (sizes.empty()) return 0;
    const auto k = sizes.begin() + std::lround(0.9 * static_cast<double>(sizes.size() - 1));
    std::nth_element(sizes.begin(), k, sizes.end());
    return *k;
}

} // namespace

double shareExact(const std::vector<double>& errors)
{
    constexpr double none = 1e-9; // what adding up leaves
    if (errors.empty()) return 0;
    const auto n = std::ranges::count_if(errors, [](double e) { return std::abs(e) < none; });
    return static_cast<double>(n) / static_cast<double>(errors.size());
}

std::vector<ErrorGroup> errorGroups(const std::vector<CaseOutcome>& outcomes)
{
    // Measures of moments first, each in its own order.
    std::map<std::pair<std::string, std::size_t>, ErrorGroup> groups;
    const auto group = [&](std::string_view view, std::size_t order, std::string_view key,
                           std::string_view unit) -> ErrorGroup& {
        ErrorGroup& g = groups[{std::string(view), order}];
        if (g.key.empty()) g = {std::string(view), std::string(key), std::string(unit), {}, {}, {}, 0, {}};
        return g;
    };
    for (const CaseOutcome& o : outcomes) {
        for (const ValidationSample& s : o.samples) {
            const auto m = static_cast<std::size_t>(s.value.measure);
            ErrorGroup& g = group(s.view, m, measureInfo(s.value.measure).key, unitOf(s.value.measure));
            if (s.status == Status::Unseen) {
                ++g.unseen;
                continue;
            }
            g.error.push_back(s.error());
            g.u.push_back(s.value.u);
            g.certain.push_back(s.status == Status::Ok);
        }
        for (const PhaseSample& s : o.phaseSamples) {
            const PhaseMeasureInfo& info = phaseMeasureInfo(s.value.measure);
            ErrorGroup& g =
                group(s.view, kMeasureCount + static_cast<std::size_t>(s.value.measure), info.key, info.unit);
            if (s.value.seen()) {
                g.error.push_back(s.value.value - s.truth);
                g.u.push_back(s.value.u);
                g.certain.push_back(s.value.isCertain());
            } else {
                ++g.unseen;
                if (s.value.isGiven()) g.unrated.push_back(s.value.value - s.truth);
            }
        }
    }
    std::vector<ErrorGroup> out;
    out.reserve(groups.size());
    for (auto& [key, g] : groups)
        out.push_back(std::move(g));
    return out;
}

AccuracyRow accuracyRow(const ErrorGroup& g)
{
    AccuracyRow row;
    row.view = g.view;
    row.key = g.key;
    row.unit = g.unit;
    row.n = static_cast<int>(g.error.size());
    row.unseen = g.unseen;
    if (row.n == 0) return row;
    double sum = 0, squares = 0, uSum = 0;
    int covered = 0, far = 0, certainFar = 0;
    std::vector<double> sizes, certain;
    for (std::size_t i = 0; i < g.error.size(); ++i) {
        const double e = std::abs(g.error[i]);
        sum += g.error[i];
        squares += e * e;
        uSum += g.u[i];
        covered += e <= 2 * g.u[i];
        far += e > 3 * g.u[i];
        sizes.push_back(e);
        if (!g.certain[i]) continue;
        certain.push_back(e);
        certainFar += e > 3 * g.u[i];
    }
    row.bias = sum / row.n;
    row.sd = std::sqrt(std::max(0.0, squares / row.n - row.bias * row.bias));
    row.meanU = uSum / row.n;
    row.coverage = static_cast<double>(covered) / row.n;
    row.beyondThree = static_cast<double>(far) / row.n;
    row.p90 = nineInTen(std::move(sizes));
    row.certain = static_cast<int>(certain.size());
    if (row.certain > 0) row.certainBeyondThree = static_cast<double>(certainFar) / row.certain;
    row.certainP90 = nineInTen(std::move(certain));
    row.exact = shareExact(g.error);
    return row;
}

std::vector<AccuracyRow> accuracyRows(const std::vector<CaseOutcome>& outcomes)
{
    std::vector<AccuracyRow> rows;
    for (const ErrorGroup& g : errorGroups(outcomes))
        rows.push_back(accuracyRow(g));
    return rows;
}

double binomialAtMost(int k, int n, double p)
{
    if (p <= 0 || k >= n) return 1;
    if (p >= 1) return 0;
    double sum = 0;
    for (int i = 0; i <= k; ++i)
        sum += std::exp(std::lgamma(n + 1) - std::lgamma(i + 1) - std::lgamma(n - i + 1) + i * std::log(p) +
                        (n - i) * std::log(1 - p));
    return sum;
}

bool isCoveredAsWanted(const AccuracyRow& row)
{
    return row.coverage >= kLeastCovered && (row.coverage <= kMostCovered || row.exact >= kLeastCovered);
}

bool isAsWanted(const AccuracyRow& row)
{
    return isCoveredAsWanted(row) && (row.certain < kFewestToTell || row.certainBeyondThree <= kMostBeyond);
}

CoverageSummary coverageOf(const std::vector<AccuracyRow>& rows)
{
    constexpr double unlikely = 0.05;
    const auto unlikelyMany = [](double share, int n, double allowed) {
        const int k = static_cast<int>(std::lround(share * n));
        return share > allowed && 1 - binomialAtMost(k - 1, n, allowed) < unlikely;
    };
    CoverageSummary s;
    for (const AccuracyRow& r : rows) {
        if (r.certain >= kFewestToTell) {
            ++s.certainRows;
            s.beyond += r.certainBeyondThree > kMostBeyond;
            s.longTails += unlikelyMany(r.certainBeyondThree, r.certain, kMostBeyond);
        }
        if (r.n < kFewestToTell) continue;
        ++s.rows;
        const int covered = static_cast<int>(std::lround(r.coverage * r.n));
        s.within += isCoveredAsWanted(r);
        s.tooFew += r.coverage < kLeastCovered && binomialAtMost(covered, r.n, kLeastCovered) < unlikely;
        s.tooMany += !isCoveredAsWanted(r) && unlikelyMany(r.coverage, r.n, kMostCovered);
    }
    return s;
}

std::string accuracyText(const std::vector<AccuracyRow>& rows)
{
    std::string text = "view       measure                  unit      n  unseen     bias       sd      p90   "
                       "mean u  within 2u  beyond 3u  certain      p90  beyond 3u\n";
    char line[320];
    for (const AccuracyRow& r : rows) {
        const bool metres = r.unit == "m";
        const double k = metres ? 100 : 1;
        const char* unit = metres ? "cm" : r.unit.c_str();
        int length = std::snprintf(line, sizeof line, "%-10s %-24s %-4s %6d  %6d", r.view.c_str(),
                                   r.key.c_str(), unit, r.n, r.unseen);
        text.append(line, static_cast<std::size_t>(length));
        if (r.n > 0) {
            length = std::snprintf(
                line, sizeof line, " %+8.2f %8.2f %8.2f %8.2f %8.1f %% %8.1f %% %8d %8.2f %8.1f %%",
                k * r.bias, k * r.sd, k * r.p90, k * r.meanU, 100 * r.coverage, 100 * r.beyondThree,
                r.certain, k * r.certainP90, 100 * r.certainBeyondThree);
            text.append(line, static_cast<std::size_t>(length));
        }
        text += '\n';
    }
    const CoverageSummary s = coverageOf(rows);
    const int length =
        std::snprintf(line, sizeof line,
                      "within 2u, wanted 93 to 97 %%: %d of %d rows with 50 values or more; of the "
                      "others %d clearly below, %d clearly above\n"
                      "certain and beyond 3u, wanted at most 1 %%: more in %d of %d rows, clearly in %d\n",
                      s.within, s.rows, s.tooFew, s.tooMany, s.beyond, s.certainRows, s.longTails);
    return text.append(line, static_cast<std::size_t>(length));
}

std::string accuracyJson(const std::vector<AccuracyRow>& rows)
{
    nlohmann::ordered_json j = nlohmann::ordered_json::array();
    for (const AccuracyRow& r : rows) {
        nlohmann::ordered_json row{
            {"view", r.view}, {"measure", r.key}, {"unit", r.unit}, {"n", r.n}, {"unseen", r.unseen}};
        if (r.n > 0) {
            row["bias"] = r.bias;
            row["sd"] = r.sd;
            row["p90"] = r.p90;
            row["mean_u"] = r.meanU;
            row["coverage_2u"] = r.coverage;
            row["beyond_3u"] = r.beyondThree;
            row["certain"] = r.certain;
            row["certain_p90"] = r.certainP90;
            row["certain_beyond_3u"] = r.certainBeyondThree;
            row["exact"] = r.exact;
        }
        j.push_back(std::move(row));
    }
    return j.dump(1);
}

namespace
{

constexpr std::string_view kCsvHeader =
    "view,measure,unit,n,unseen,bias,sd,p90,mean_u,coverage_2u,beyond_3u,certain,certain_p90,"
    "certain_beyond_3u,exact";

bool readCsvRow(const std::string& line, AccuracyRow& r)
{
    std::istringstream in(line);
    std::string counts;
    for (std::string* cell : {&r.view, &r.key, &r.unit})
        if (!std::getline(in, *cell, ',')) return false;
    std::getline(in, counts);
    int read = 0;
    if (std::sscanf(counts.c_str(), "%d,%d,%n", &r.n, &r.unseen, &read) != 2 || read == 0) return false;
    return r.n == 0 || std::sscanf(counts.c_str() + read, "%lf,%lf,%lf,%lf,%lf,%lf,%d,%lf,%lf,%lf", &r.bias,
                                   &r.sd, &r.p90, &r.meanU, &r.coverage, &r.beyondThree, &r.certain,
                                   &r.certainP90, &r.certainBeyondThree, &r.exact) == 10;
}

} // namespace

Result<std::vector<AccuracyRow>> accuracyFromCsv(const std::string& text, const std::string& file)
{
    std::istringstream in(text);
    std::string line;
    std::vector<AccuracyRow> rows;
    for (int number = 1; std::getline(in, line); ++number) {
        if (number == 1 && line == kCsvHeader) continue;
        rows.emplace_back();
        if (number == 1 || !readCsvRow(line, rows.back()))
            return Error{Error::Kind::BadInput,
                         "line " + std::to_string(number) + " is not one of a table of accuracy", file,
                         "Write it again with validate --csv."};
    }
    return rows;
}

std::string accuracyCsv(const std::vector<AccuracyRow>& rows)
{
    std::string text = std::string(kCsvHeader) + "\n";
    char cell[160];
    for (const AccuracyRow& r : rows) {
        text +=
            r.view + "," + r.key + "," + r.unit + "," + std::to_string(r.n) + "," + std::to_string(r.unseen);
        if (r.n > 0)
            std::snprintf(cell, sizeof cell, ",%.5f,%.5f,%.5f,%.5f,%.4f,%.4f,%d,%.5f,%.4f,%.4f\n", r.bias,
                          r.sd, r.p90, r.meanU, r.coverage, r.beyondThree, r.certain, r.certainP90,
                          r.certainBeyondThree, r.exact);
        text += r.n > 0 ? cell : ",,,,,,,,,,\n";
    }
    return text;
}

} // namespace jl
