#include "measure/accuracy_table.h"
#include "base/json_file.h"

namespace jl
{

Result<AccuracyTable> AccuracyTable::load(const std::filesystem::path& folder)
{
    const auto file = folder / "measure/accuracy.json";
    const auto json = readJson(file);
    if (!json) return json.error();
    AccuracyTable table;
    try {
        for (const auto& [view, rows] : json->items())
            for (const auto& [measure, row] : rows.items())
                table.m_entries[view + "/" + measure] = {
                    row.at("bias").get<double>(), row.at("floor").get<double>(), row.value("scale", 1.0)};
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("a row lacks bias or floor: ") + e.what(),
                     file.string(), "Take the shipped file again."};
    }
    return table;
}

AccuracyTable::Entry AccuracyTable::entry(std::string_view view, Measure m) const
{
    return entry(view, measureInfo(m).key).value_or(Entry{});
}

std::optional<AccuracyTable::Entry> AccuracyTable::entry(std::string_view view, std::string_view key) const
{
    const auto found = m_entries.find(std::string(view) + "/" + std::string(key));
    return found == m_entries.end() ? std::nullopt : std::optional(found->second);
}

} // namespace jl
