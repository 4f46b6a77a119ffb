#include "exchange/measures_check.h"
#include <charconv>
#include <optional>
#include <sstream>
#include <vector>

namespace jl
{
namespace
{

std::vector<std::string> cellsOf(const std::string& line)
{
    std::vector<std::string> cells(1);
    for (const char c : line)
        if (c == ',')
            cells.emplace_back();
        else if (c != '\r')
            cells.back() += c;
    return cells;
}

std::optional<double> numberIn(const std::string& cell)
{
    double number = 0;
    const char* end = cell.data() + cell.size();
    const auto [stop, error] = std::from_chars(cell.data(), end, number);
    if (error != std::errc() || stop != end) return {};
    return number;
}

bool isWord(const std::string& column)
{
    return column == "posture" || column == "phase" || column == "view" || column == "plane" ||
           column.ends_with(".status");
}

} // namespace

bool namesMeasures(const std::string& csv)
{
    return csv.starts_with("time,") &&
           csv.substr(0, csv.find('\n')).find(",posture,phase") != std::string::npos;
}

Result<MeasuresTable> checkMeasures(const std::string& csv, const std::string& file)
{
    std::istringstream lines(csv);
    std::string line;
    std::getline(lines, line);
    const std::vector<std::string> columns = cellsOf(line);
    MeasuresTable table;
    for (const std::string& c : columns)
        table.measures += c != "time" && !isWord(c) && !c.ends_with(".u");
    std::optional<double> before;
    for (std::size_t n = 2; std::getline(lines, line); ++n) {
        const auto wrong = [&](const std::string& what) {
            return Error{Error::Kind::BadInput, "line " + std::to_string(n) + " " + what, file,
                         "Write the table again with review --measures or measure."};
        };
        const std::vector<std::string> cells = cellsOf(line);
        if (cells.size() != columns.size())
            return wrong("has " + std::to_string(cells.size()) + " cells instead of " +
                         std::to_string(columns.size()));
        for (std::size_t k = 0; k < cells.size(); ++k)
            if (!cells[k].empty() && !isWord(columns[k]) && !numberIn(cells[k]))
                return wrong("has no number under " + columns[k]);
        const auto time = numberIn(cells.front());
        if (!time || (before && *time <= *before)) return wrong("has a time that does not go on");
        before = time;
        ++table.moments;
    }
    if (table.moments == 0)
        return Error{Error::Kind::BadInput, "the table of measures has no line", file,
                     "Write it again with review --measures or measure."};
    return table;
}

} // namespace jl
