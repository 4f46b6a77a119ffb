#include "lab/network_report.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>

namespace jl
{
namespace
{

constexpr int kFewest = 20; ///< values of a row that is compared

const AccuracyRow* rowOf(const std::vector<AccuracyRow>& rows, const AccuracyRow& wanted)
{
    const auto found = std::find_if(rows.begin(), rows.end(), [&](const AccuracyRow& r) {
        return r.view == wanted.view && r.key == wanted.key;
    });
    return found == rows.end() || found->n < kFewest ? nullptr : &*found;
}

/// Of the true values of rows that are compared, the share within 2 u.
double coverageIn(const std::vector<AccuracyRow>& rows)
{
    double within = 0, n = 0;
    for (const AccuracyRow& r : rows) {
        if (r.n < kFewest) continue;
        within += r.coverage * r.n;
        n += r.n;
    }
    return within / std::max(1.0, n);
}

template <class... Values>
void append(std::string& text, const char* format, Values... values)
{
    char cell[160];
    text.append(cell, static_cast<std::size_t>(std::snprintf(cell, sizeof cell, format, values...)));
}

} // namespace

ErrorRatio errorRatio(const std::vector<AccuracyRow>& rows, const std::vector<AccuracyRow>& others)
{
    ErrorRatio ratio;
    double sd = 0, p90 = 0;
    for (const AccuracyRow& r : rows) {
        const AccuracyRow* other = r.n < kFewest ? nullptr : rowOf(others, r);
        if (!other || std::min({r.sd, r.p90, other->sd, other->p90}) <= 0)
            continue; // counts may all be right
        sd += std::log(r.sd / other->sd);
        p90 += std::log(r.p90 / other->p90);
        ++ratio.rows;
    }
    if (ratio.rows > 0) {
        ratio.sd = std::exp(sd / ratio.rows);
        ratio.p90 = std::exp(p90 / ratio.rows);
    }
    return ratio;
}

std::string networksText(const std::vector<NetworkAccuracy>& all)
{
    if (all.empty()) return {};
    std::string text = "9 of 10 errors within\nview       measure                  unit";
    for (const NetworkAccuracy& one : all)
        append(text, " %11s", one.networks.c_str());
    text += '\n';
    for (const AccuracyRow& first : all.front().rows) {
        if (first.n < kFewest) continue;
        const bool metres = first.unit == "m";
        append(text, "%-10s %-24s %-4s", first.view.c_str(), first.key.c_str(),
               metres ? "cm" : first.unit.c_str());
        for (const NetworkAccuracy& one : all) {
            const AccuracyRow* r = rowOf(one.rows, first);
            if (r)
                append(text, " %11.2f", (metres ? 100 : 1) * r->p90);
            else
                text += "           -";
        }
        text += '\n';
    }
    for (const NetworkAccuracy& one : all) {
        const ErrorRatio ratio = errorRatio(one.rows, all.back().rows);
        append(text, "%-11s errors %.2f times those of %s (sd %.2f) over %d rows; within 2u %.1f %%\n",
               one.networks.c_str(), ratio.p90, all.back().networks.c_str(), ratio.sd, ratio.rows,
               100 * coverageIn(one.rows));
    }
    return text;
}

std::string networksJson(const std::vector<NetworkAccuracy>& all)
{
    std::string text;
    for (const NetworkAccuracy& one : all)
        text += (text.empty() ? "[" : ",\n") + ("{\"networks\":\"" + one.networks + "\",\"rows\":") +
                accuracyJson(one.rows) + "}";
    return text.empty() ? "[]" : text + "]";
}

std::string networksCsv(const std::vector<NetworkAccuracy>& all)
{
    std::string text;
    for (const NetworkAccuracy& one : all) {
        std::istringstream lines(accuracyCsv(one.rows));
        std::string line;
        std::getline(lines, line);
        if (text.empty()) text = "networks," + line + "\n";
        while (std::getline(lines, line))
            text += one.networks + "," + line + "\n";
    }
    return text;
}

Result<std::vector<NetworkAccuracy>> networksFromCsv(const std::string& text, const std::string& file)
{
    std::istringstream in(text);
    std::string line, header;
    std::vector<std::pair<std::string, std::string>> tables; // in the order of the file
    while (std::getline(in, line)) {
        const auto comma = line.find(',');
        if (comma == std::string::npos)
            return Error{Error::Kind::BadInput, "a line is not one of a table of networks", file,
                         "Write it again with validate --networks --csv."};
        const std::string name = line.substr(0, comma), rest = line.substr(comma + 1) + "\n";
        if (header.empty()) {
            header = rest;
            continue;
        }
        if (tables.empty() || tables.back().first != name) tables.emplace_back(name, header);
        tables.back().second += rest;
    }
    std::vector<NetworkAccuracy> all;
    for (const auto& [name, table] : tables) {
        auto rows = accuracyFromCsv(table, file);
        if (!rows) return rows.error();
        all.push_back({name, std::move(*rows)});
    }
    return all;
}

} // namespace jl
