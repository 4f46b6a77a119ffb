#include "pipeline/table_fit.h"
#include "base/angles.h"
#include "base/json_file.h"
#include "base/median.h"
#include "measure/fused_value.h"
#include "measure/part_axes.h"
#include "pipeline/accuracy_report.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>
#include <nlohmann/json.hpp>
#include <numeric>

namespace jl
{
namespace
{

constexpr double kDigits = 1e8; ///< areas of sway are a few square millimetres

double rounded(double value)
{
    return std::round(value * kDigits) / kDigits;
}

/// For what holds errors of a whole number, such as one pause: to be a hair too narrow would miss them.
double roundedUp(double value)
{
    return std::ceil(value * kDigits) / kDigits;
}

constexpr std::size_t kFewest = 30; ///< values from which a row is fitted
constexpr std::size_t kOwn = 150; ///< values from which two cameras' views may be surer than any two cameras
constexpr std::size_t kFewestAgain = kFewestToTell; ///< values from which a row is fitted again
constexpr double kCovered = 0.96; ///< of the true values should lie within two standard uncertainties

/// Share of the errors beyond k standard uncertainties.
double beyond(const std::vector<double>& errors, const std::vector<double>& variance, double k,
              const AccuracyTable::Entry& entry)
{
    int n = 0;
    for (std::size_t i = 0; i < errors.size(); ++i)
        n += std::abs(errors[i]) > k * entry.uncertainty(variance[i]);
    return static_cast<double>(n) / static_cast<double>(errors.size());
}

/// The least value at which the condition holds, by bisection.
template <class Holds>
double least(double high, const Holds& holds)
{
    double low = 0;
    for (int i = 0; i < 40; ++i) {
        const double middle = 0.5 * (low + high);
        (holds(middle) ? high : low) = middle;
    }
    return high;
}

/// How much wider a spread must be for errors with a long tail, so long as it does not cover too much, where
/// `outside(by)` is their share beyond twice the spread made wider so.
template <class LongTails, class Outside>
double widerForTails(const LongTails& hasLongTails, const Outside& outside)
{
    constexpr double most = 1.5, hairLess = 1 - 1e-6, hairMore = 1.002; // the table's digits, and fusion
    const double enough = least(most, [&](double by) { return !hasLongTails(by); }),
                 tooMuch = least(most, [&](double by) { return outside(by) < 1 - kMostCovered; });
    return std::max(1.0, std::min(hairMore * enough, hairLess * tooMuch));
}

/// Which standard uncertainties must hold all but which share of the errors. Where nearly all are exactly
/// right, like pauses counted, no spread leaves more of those out: the few others tell how wide it must be.
struct Wanted {
    double k, beyond;
};
Wanted wantedOf(const std::vector<double>& errors)
{
    const bool exact = shareExact(errors) >= kLeastCovered;
    return exact ? Wanted{3, kMostBeyond} : Wanted{2, 1 - kCovered};
}

/// Geometry narrowed where it covers too much, a floor put under it where it covers too little.
AccuracyTable::Entry fittedSpread(const std::vector<double>& errors, const std::vector<double>& variance)
{
    const Wanted wanted = wantedOf(errors);
    const auto holds = [&](const AccuracyTable::Entry& e) {
        return beyond(errors, variance, wanted.k, e) <= wanted.beyond;
    };
    AccuracyTable::Entry entry;
    if (holds(entry)) {
        entry.scale = least(1, [&](double scale) { return holds({0, 0, scale}); });
    } else {
        double largest = 0;
        for (double e : errors)
            largest = std::max(largest, std::abs(e));
        entry.floor = least(largest, [&](double floor) { return holds({0, floor, 1}); });
    }
    const auto wider = [&](double by) {
        return AccuracyTable::Entry{0, entry.floor * by, std::min(1.0, entry.scale * by)};
    };
    return wider(
        widerForTails([&](double by) { return beyond(errors, variance, 3, wider(by)) > kMostBeyond; },
                      [&](double by) { return beyond(errors, variance, 2, wider(by)); }));
}

/// Those of two cameras also taken together whatever they see, before all others: a row for views of which
/// there are too few.
std::vector<ErrorGroup> withAnyPair(std::vector<ErrorGroup> groups)
{
    const std::string any(viewName(View::Both));
    std::map<std::string, ErrorGroup> together;
    for (const ErrorGroup& g : groups) {
        if (!g.view.starts_with(any)) continue;
        ErrorGroup& all = together[g.key];
        all.view = any;
        all.key = g.key;
        all.error.insert(all.error.end(), g.error.begin(), g.error.end());
        all.u.insert(all.u.end(), g.u.begin(), g.u.end());
        all.certain.insert(all.certain.end(), g.certain.begin(), g.certain.end());
        all.unrated.insert(all.unrated.end(), g.unrated.begin(), g.unrated.end());
    }
    std::erase_if(groups, [&](const ErrorGroup& g) { return g.view == any; });
    std::vector<ErrorGroup> out;
    out.reserve(together.size() + groups.size());
    for (auto& [key, g] : together)
        out.push_back(std::move(g));
    std::move(groups.begin(), groups.end(), std::back_inserter(out));
    return out;
}

} // namespace

Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes)
{
    // A constant offset and one that goes along with each component of the limb's direction.
    constexpr int unknowns = 12;
    struct Sums {
        Eigen::Matrix<double, unknowns, unknowns> normal =
            Eigen::Matrix<double, unknowns, unknowns>::Identity() * 1e-3;
        Eigen::Vector<double, unknowns> right = Eigen::Vector<double, unknowns>::Zero();
    };
    std::array<Sums, kLandmarkCount> sums;
    for (const CaseOutcome& o : outcomes) {
        const auto performance = performanceOf(data, o.request);
        if (!performance) return performance.error();
        const Camera camera = cameraFor(*performance, clipRequestOf(o.request));
        const double size = performance->body().height / 1.70;
        for (const BodyFrame& f : o.track.frames) {
            if (!f.seen) continue;
            const Figure figure = performance->figureAt(f.time);
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                const auto l = std::min(static_cast<Landmark>(i), mirrored(static_cast<Landmark>(i)));
                const Eigen::Vector3d inCamera = camera.toCamera(figure.landmark[i]);
                const double metres = inCamera.z() / camera.focal;
                const Eigen::Vector2d residual = (f.point[i] - camera.project(figure.landmark[i])) * metres;
                if (residual.norm() > 0.07 || f.visibility[i] < 0.8)
                    continue; // a wrong point, not a convention
                const Eigen::Matrix<double, 2, 3> axes =
                    camera.rotation.topRows<2>() * partAxes(figure.landmark, static_cast<Landmark>(i)) * size;
                const Eigen::Vector3d limb = limbDirection(figure.landmark, static_cast<Landmark>(i));
                Eigen::Matrix<double, 2, unknowns> design;
                design << axes, limb.x() * axes, limb.y() * axes, limb.z() * axes;
                sums[index(l)].normal += design.transpose() * design;
                sums[index(l)].right += design.transpose() * residual;
            }
        }
    }
    nlohmann::ordered_json table;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const auto l = static_cast<Landmark>(i);
        if (mirrored(l) < l) continue;
        const Eigen::Vector<double, unknowns> found = sums[i].normal.ldlt().solve(sums[i].right);
        const auto row = [&](int k, int from, int step) {
            nlohmann::ordered_json values = nlohmann::ordered_json::array();
            for (int c = 0; c < 3; ++c)
                values.push_back(rounded(found[from + k + step * c]));
            return values;
        };
        nlohmann::ordered_json& out = table[std::string(landmarkName(l))];
        const nlohmann::ordered_json offset = row(0, 0, 1);
        if (found.tail<9>().isZero())
            out = offset;
        else
            out = {{"offset", offset}, {"follow", {row(0, 3, 3), row(1, 3, 3), row(2, 3, 3)}}};
    }
    const HipLine& hips = data.tables.offsets.hipLine(); // is not fitted here
    table["hip_line"] = {{"along", hips.along}, {"hidden", hips.hidden}};
    return table.dump(1) + "\n";
}

std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes)
{
    const std::string any(viewName(View::Both));
    std::map<std::string, AccuracyTable::Entry> anyPair; // by measure
    nlohmann::ordered_json table;
    for (ErrorGroup& g : withAnyPair(errorGroups(outcomes))) {
        std::vector<double> errors = std::move(g.error), variance;
        for (double u : g.u) // the pressure in the soles comes on top and is no matter of this table
            variance.push_back(u * u - (g.key == "weight.lead" ? kPressureSpread * kPressureSpread : 0));
        errors.insert(errors.end(), g.unrated.begin(), g.unrated.end());
        variance.resize(errors.size(), 0);
        if (errors.size() < kFewest) continue; // too few to say
        const double bias = rounded(median(errors));
        for (double& e : errors)
            e -= bias;
        AccuracyTable::Entry fitted = fittedSpread(errors, variance);
        if (g.view == any) {
            anyPair[g.key] = fitted;
        } else if (g.view.starts_with(any) && errors.size() < kOwn) {
            fitted.floor = std::max(fitted.floor, anyPair[g.key].floor);
            fitted.scale = std::max(fitted.scale, anyPair[g.key].scale);
        }
        table[g.view][g.key] = {{"bias", bias}, {"floor", roundedUp(fitted.floor)}};
        if (fitted.scale < 1) table[g.view][g.key]["scale"] = rounded(fitted.scale);
    }
    return table.dump(1) + "\n";
}

namespace
{

double meanSquare(const std::vector<double>& u)
{
    return std::transform_reduce(u.begin(), u.end(), 0.0, std::plus{}, [](double s) { return s * s; }) /
           static_cast<double>(u.size());
}

/// Share of n errors that is aimed at beyond 2 u: of few values a whole one more or less may be too much.
double aimedOutside(std::size_t n)
{
    const auto all = static_cast<double>(n);
    return std::max(1 - kCovered, std::ceil((1 - kMostCovered) * all) / all);
}

/// How much more of a row's uncertainty may be the same for all its values, of what geometry tells apart, or
/// less, down to no floor. Geometry keeps its say: where a camera is placed badly or a height is not known,
/// only geometry knows.
struct CommonRange {
    double least = 0, most = 0;

    CommonRange(const AccuracyTable::Entry& entry, double mean)
    {
        constexpr double leastScale = 0.3;
        const double floor = entry.floor * entry.floor, scale = entry.scale * entry.scale;
        if (mean > floor) least = std::max(-floor / (mean - floor), 1 - 1 / scale);
        most = std::max(0.0, 1 - leastScale * leastScale / scale);
    }
};

/// The shares in that range, those first with which normal errors are likelier; what was told to be the same
/// before is last. A wrong point more or less does not matter.
std::vector<double> sharesInCommon(const std::vector<double>& errors, const std::vector<double>& u,
                                   double mean, const CommonRange& range)
{
    constexpr double most = 4; // standard deviations that an error counts at most
    const auto unlikelihood = [&](double share) {
        double sum = 0;
        for (std::size_t i = 0; i < errors.size(); ++i) {
            const double variance = std::max(1e-18, mix(u[i] * u[i], mean, share));
            sum += std::log(variance) + std::min(most * most, errors[i] * errors[i] / variance);
        }
        return sum;
    };
    std::vector<std::tuple<bool, double, double>> tried;
    for (double share : {-0.7, -0.5, -0.3, -0.2, -0.1, 0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7})
        if (share >= range.least && share <= range.most)
            tried.emplace_back(share < 0, unlikelihood(share), share);
    std::ranges::sort(tried);
    std::vector<double> shares;
    for (const auto& [less, unlikely, share] : tried)
        shares.push_back(share);
    return shares;
}

/// Errors against uncertainties of which a share is in common.
struct Spread {
    const std::vector<double>& errors;
    std::vector<double> u;

    Spread(const std::vector<double>& e, const std::vector<double>& before, double mean, double common)
        : errors(e)
    {
        u.reserve(before.size());
        for (double s : before)
            u.push_back(std::sqrt(std::max(0.0, mix(s * s, mean, common))));
    }

    /// Share of those that count beyond k times the spread made wider.
    double outside(double k, double factor, const std::vector<bool>& counts = {}) const
    {
        int n = 0, all = 0;
        for (std::size_t i = 0; i < errors.size(); ++i) {
            if (!counts.empty() && !counts[i]) continue;
            ++all;
            n += std::abs(errors[i]) > k * factor * u[i];
        }
        return all > 0 ? static_cast<double>(n) / all : 0;
    }
};

/// The row with a share in common and all made wider by a factor.
AccuracyTable::Entry withSpread(AccuracyTable::Entry entry, double mean, double common, double factor)
{
    const double geometry = std::max(0.0, mean - entry.floor * entry.floor) / (entry.scale * entry.scale);
    entry.floor = factor * std::sqrt(mix(entry.floor * entry.floor, mean, common));
    entry.scale = factor * entry.scale * std::sqrt(1 - common);
    if (entry.scale > 1) { // geometry is never widened: a floor is put under it
        entry.scale = 1;
        entry.floor = std::max(entry.floor, std::sqrt(std::max(0.0, factor * factor * mean - geometry)));
    }
    return entry;
}

} // namespace

AccuracyTable::Entry respread(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                              const std::vector<double>& before, const std::vector<bool>& certain)
{
    constexpr double narrowest = 0.5, widest = 5;
    if (errors.empty()) return entry;
    const double mean = meanSquare(before);
    const std::vector<double> shares = sharesInCommon(errors, before, mean, CommonRange(entry, mean));
    struct Fit {
        double common, factor;
        bool holds;
    };
    const auto fitOf = [&](double common, bool onlyCertain) {
        const Spread spread(errors, before, mean, common);
        const auto hasLongTails = [&](double factor) {
            return (!onlyCertain && spread.outside(3, factor) > kMostBeyond) ||
                   (!certain.empty() && spread.outside(3, factor, certain) > kMostBeyond);
        };
        const double needed = std::max(narrowest, least(widest, [&](double f) {
                                           return spread.outside(2, f) <= aimedOutside(errors.size());
                                       }));
        const double factor =
            needed * widerForTails([&](double by) { return hasLongTails(needed * by); },
                                   [&](double by) { return spread.outside(2, needed * by); });
        const double outside = spread.outside(2, factor);
        return Fit{common, factor,
                   !hasLongTails(factor) && outside <= 1 - kLeastCovered && outside >= 1 - kMostCovered};
    };
    Fit fit = fitOf(shares.front(), false);
    for (const bool onlyCertain : {false, true})
        for (std::size_t i = 0; i < shares.size() && !fit.holds; ++i)
            if (const Fit other = fitOf(shares[i], onlyCertain); other.holds) fit = other;
    return withSpread(entry, mean, fit.common, fit.factor);
}

AccuracyTable::Entry refloored(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                               const std::vector<double>& u)
{
    constexpr double most = 100;
    if (errors.empty()) return entry;
    const auto outside = [&](double k, double floor) {
        const double added = floor * floor - entry.floor * entry.floor; // to what else each is uncertain by
        const auto n = std::transform_reduce(
            errors.begin(), errors.end(), u.begin(), 0, std::plus{},
            [&](double e, double s) { return std::abs(e) > k * std::sqrt(std::max(0.0, s * s + added)); });
        return static_cast<double>(n) / static_cast<double>(errors.size());
    };
    const double forMost =
                     least(most, [&](double f) { return outside(2, f) <= aimedOutside(errors.size()); }),
                 forTail = least(most, [&](double f) { return outside(3, f) <= kMostBeyond; }),
                 tooMuch = least(most, [&](double f) { return outside(2, f) < 1 - kMostCovered; });
    // What is nearly always exactly right covers more with no floor at all: then only the tail matters.
    const double limit = outside(2, 0) < 1 - kMostCovered ? most : 0.999 * tooMuch;
    AccuracyTable::Entry out = entry;
    const double narrow = std::min(forTail, limit), wide = std::max(forMost, narrow);
    const bool jumps = outside(2, wide) < 1 - kMostCovered && outside(2, narrow) <= 1 - kLeastCovered;
    out.floor = jumps ? narrow : wide;
    return out;
}

namespace
{

/// Which values are certain, where those are enough to say how many of them may be far off; otherwise none.
std::vector<bool> certainWhereMany(const ErrorGroup& g)
{
    const auto many = std::ranges::count(g.certain, true) >= static_cast<std::ptrdiff_t>(kFewestAgain);
    return many ? g.certain : std::vector<bool>(g.certain.size(), false);
}

/// Whether the row would be as wanted with another entry than that with which it was measured.
bool holds(ErrorGroup g, const AccuracyTable::Entry& before, const AccuracyTable::Entry& entry)
{
    for (double& u : g.u)
        u = entry.uncertainty((u * u - before.floor * before.floor) / (before.scale * before.scale));
    return isAsWanted(accuracyRow(g));
}

} // namespace

Result<std::string> refitAccuracy(const std::filesystem::path& file, const AccuracyTable& table,
                                  const std::vector<CaseOutcome>& outcomes)
{
    const auto rows = readJson(file);
    if (!rows) return rows.error();
    nlohmann::ordered_json out = *rows;
    const std::string any(viewName(View::Both));
    for (ErrorGroup& g : withAnyPair(errorGroups(outcomes))) {
        const bool ofMoment = measureFromKey(g.key).has_value();
        auto before = table.entry(g.view, g.key);
        if (!before && ofMoment) before.emplace(); // read by geometry alone until now
        if (g.error.size() < kFewestAgain || !before || isAsWanted(accuracyRow(g))) continue;
        const auto ofPhase = phaseMeasureFromKey(g.key);
        const bool isOfOne = ofPhase && !(g.view.starts_with(any) && isFused(*ofPhase));
        const bool hasBias = ofMoment || (ofPhase && phaseMeasureInfo(*ofPhase).isSigned);
        const double off = hasBias ? median(g.error) : 0;
        for (double& e : g.error)
            e -= off;
        AccuracyTable::Entry again =
            isOfOne ? refloored(*before, g.error, g.u) : respread(*before, g.error, g.u, certainWhereMany(g));
        if (isOfOne && !holds(g, *before, again))
            again = respread(*before, g.error, g.u, certainWhereMany(g));
        nlohmann::ordered_json& row = out[g.view][g.key];
        row = {{"bias", rounded(before->bias + off)}, {"floor", roundedUp(again.floor)}};
        if (again.scale < 1) row["scale"] = rounded(again.scale);
    }
    return out.dump(1) + "\n";
}

} // namespace jl
