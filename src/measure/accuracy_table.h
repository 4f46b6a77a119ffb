#pragma once
#include "base/result.h"
#include "measure/measure_id.h"
#include <cmath>
#include <filesystem>
#include <map>
#include <optional>
#include <string>

namespace jl
{

/// What `validate` found about the method's own error, per view and measure, in data/measure/accuracy.json:
/// the bias that is taken off, the standard deviation that the uncertainty never falls below, and by how much
/// the uncertainty that geometry gives is too wide.
class AccuracyTable
{
public:
    struct Entry {
        double bias = 0;
        double floor = 0;
        double scale = 1; ///< of the uncertainty from geometry

        /// Standard uncertainty of a value whose geometry gives this variance.
        double uncertainty(double variance) const
        {
            return std::sqrt(scale * scale * variance + floor * floor);
        }
    };

    static Result<AccuracyTable> load(const std::filesystem::path& folder);

    /// Zero where the table has no row.
    Entry entry(std::string_view view, Measure m) const;
    /// By the key of any measure; none where the table has no row.
    std::optional<Entry> entry(std::string_view view, std::string_view key) const;

private:
    std::map<std::string, Entry> m_entries; ///< by "view/measure key"
};

} // namespace jl
