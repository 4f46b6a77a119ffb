#pragma once
#include "base/result.h"
#include "base/units.h"
#include "measure/measure_id.h"
#include <cmath>
#include <filesystem>
#include <initializer_list>
#include <limits>
#include <map>
#include <optional>
#include <string>

namespace jl
{

/// What `validate` found about the method's own error, per view and measure, in data/measure/accuracy.json:
/// the bias that is taken off, the standard deviation that the uncertainty never falls below, and by how much
/// the uncertainty that geometry gives is too wide; from data/measure/bodies.json, what the networks get
/// wrong on every body that this program did not draw, and how much bodies differ; from
/// data/measure/networks.json, by how much errors are larger with other networks than those it was found
/// with; and, from data/measure/promise.json, how exact a value must be to be called certain.
class AccuracyTable
{
public:
    struct Entry {
        double bias = 0; ///< that of the method and that which all bodies share
        double floor = 0;
        Ratio scale = 1; ///< of the uncertainty from geometry, or of what a phase's value has by itself
        /// Standard deviation between bodies and their clothes: the same over a clip, so that repetition does
        /// not reduce it.
        double between = 0;
        /// Nine in ten values that are called certain lie within this of the truth; 0: none is.
        double promised = std::numeric_limits<double>::infinity();

        /// Standard uncertainty of a value whose geometry gives this variance.
        double uncertainty(double variance) const
        {
            return std::sqrt(scale * scale * variance + floor * floor);
        }
        /// Whether a value of this standard uncertainty is exact enough to be called certain.
        bool keepsPromise(double u) const { return kNineInTen * u <= promised; }
    };

    /// Nine in ten normal errors lie within so many standard deviations.
    static constexpr double kNineInTen = 1.645;

    static Result<AccuracyTable> load(const std::filesystem::path& folder);

    /// The same with nothing to take off: for points without the networks' mean errors.
    AccuracyTable withoutBias() const;

    /// The same without what is known of other bodies than those that the table is fitted on.
    AccuracyTable withoutBodies() const;

    /// The same for points that these networks found: with uncertainties as wide as the worst of them needs.
    AccuracyTable forNetworks(std::initializer_list<std::string_view> networks) const;

    /// Zero where the table has no row, and no promise where none is made. Two views of which the table does
    /// not know this measure, such as "two-views-corner", have the row and the promise of any "two-views".
    Entry entry(std::string_view view, Measure m) const;
    /// By the key of any measure; none where the table has no row.
    std::optional<Entry> entry(std::string_view view, std::string_view key) const;

private:
    double promised(std::string_view view, std::string_view key) const;
    /// The row with what holds of all bodies.
    Entry ofBodies(Entry entry, std::string_view view, std::string_view key) const;

    std::map<std::string, Entry> m_entries;   ///< by "view/measure key"
    std::map<std::string, double> m_promises; ///< by the same
    std::map<std::string, double> m_bodies;   ///< by "view/measure key", "any/...", or "between/..."
    std::map<std::string, double> m_networks; ///< how much larger errors are, by "errors/network"
};

} // namespace jl
