#include "measure/accuracy_table.h"
#include "base/json_file.h"
#include "measure/view.h"
#include <algorithm>

namespace jl
{

namespace
{

/// How the keys of the differences between bodies begin.
constexpr std::string_view kBetween = "between/";

/// The row of a view, or of the views it is one of.
template <class Rows>
auto rowOf(const Rows& rows, std::string_view view, std::string_view key)
{
    const std::string_view any = viewName(View::Both);
    const auto found = rows.find(std::string(view) + "/" + std::string(key));
    if (found != rows.end() || !view.starts_with(any)) return found;
    return rows.find(std::string(any) + "/" + std::string(key));
}

/// Calls row(view, measure key, JSON) for everything in a table of data/measure.
template <class Row>
Result<Done> readTable(const std::filesystem::path& file, const char* wanted, const Row& row)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    try {
        for (const auto& [view, rows] : json->items()) {
            if (rows.is_string()) continue; // where the numbers come from
            for (const auto& [measure, entry] : rows.items())
                row(view + "/" + measure, entry);
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string(wanted) + ": " + e.what(), file.string(),
                     "Take the shipped file again."};
    }
    return Done{};
}

} // namespace

Result<AccuracyTable> AccuracyTable::load(const std::filesystem::path& folder)
{
    AccuracyTable table;
    const auto errors = readTable(folder / "measure/accuracy.json", "a row lacks bias or floor",
                                  [&](const std::string& key, const nlohmann::json& row) {
                                      Entry& e = table.m_entries[key];
                                      e.bias = row.at("bias").get<double>();
                                      e.floor = row.at("floor").get<double>();
                                      e.scale = row.value("scale", 1.0);
                                  });
    if (!errors) return errors.error();
    const auto promises = readTable(folder / "measure/promise.json", "a promise is not a number",
                                    [&](const std::string& key, const nlohmann::json& most) {
                                        table.m_promises[key] = most.get<double>();
                                    });
    if (!promises) return promises.error();
    const auto bodies = readTable(folder / "measure/bodies.json", "a difference of bodies is not a number",
                                  [&](const std::string& key, const nlohmann::json& size) {
                                      table.m_bodies[key] = size.get<double>();
                                  });
    if (!bodies) return bodies.error();
    const auto networks = readTable(folder / "measure/networks.json", "a network's errors are not a number",
                                    [&](const std::string& key, const nlohmann::json& larger) {
                                        table.m_networks[key] = larger.get<double>();
                                    });
    if (!networks) return networks.error();
    return table;
}

AccuracyTable AccuracyTable::withoutBias() const
{
    AccuracyTable table = *this;
    for (auto& [key, entry] : table.m_entries)
        entry.bias = 0;
    std::erase_if(table.m_bodies, [](const auto& row) { return !row.first.starts_with(kBetween); });
    return table;
}

AccuracyTable AccuracyTable::withoutBodies() const
{
    AccuracyTable table = *this;
    table.m_bodies.clear();
    return table;
}

AccuracyTable AccuracyTable::forNetworks(std::initializer_list<std::string_view> networks) const
{
    double larger = 1;
    for (std::string_view network : networks)
        if (const auto found = m_networks.find("errors/" + std::string(network)); found != m_networks.end())
            larger = std::max(larger, found->second);
    AccuracyTable table = *this;
    for (auto& [key, entry] : table.m_entries) {
        entry.floor *= larger;
        entry.scale *= larger;
    }
    return table;
}

AccuracyTable::Entry AccuracyTable::entry(std::string_view view, Measure m) const
{
    const std::string_view key = measureInfo(m).key;
    return entry(view, key).value_or(ofBodies({0, 0, 1, 0, promised(view, key)}, view, key));
}

std::optional<AccuracyTable::Entry> AccuracyTable::entry(std::string_view view, std::string_view key) const
{
    const auto found = rowOf(m_entries, view, key);
    if (found == m_entries.end()) return {};
    Entry entry = found->second;
    entry.promised = promised(view, key);
    return ofBodies(entry, view, key);
}

AccuracyTable::Entry AccuracyTable::ofBodies(Entry entry, std::string_view view, std::string_view key) const
{
    const auto size = [&](std::string_view group) {
        const auto found = m_bodies.find(std::string(group) + std::string(key));
        return found == m_bodies.end() ? 0.0 : found->second;
    };
    entry.bias += size("any/") + size(std::string(view) + "/");
    entry.between = size(kBetween);
    return entry;
}

double AccuracyTable::promised(std::string_view view, std::string_view key) const
{
    const auto found = rowOf(m_promises, view, key);
    return found == m_promises.end() ? Entry{}.promised : found->second;
}

} // namespace jl
