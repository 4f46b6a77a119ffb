#include "lab/spread_fit.h"
#include "base/angles.h"
#include "lab/accuracy_report.h"
#include <algorithm>
#include <cmath>
#include <numeric>

namespace jl
{
namespace
{

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
/// right, like pauses counted, no spread leaves more of those out: the few others determine how wide it must
/// be.
struct Wanted {
    double k, beyond;
};
Wanted wantedOf(const std::vector<double>& errors)
{
    const bool exact = shareExact(errors) >= kLeastCovered;
    return exact ? Wanted{3, kMostBeyond} : Wanted{2, 1 - kCovered};
}

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

/// How much more of a row's uncertainty may be the same for all its values, of what geometry separates, or
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

/// The shares in that range, in order of the likelihood of normal errors; what was given as the same
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
    shares.reserve(tried.size());
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
    for (const bool onlyCertain : {false, true}) {
        if (onlyCertain && certain.empty()) break;
        for (std::size_t i = 0; i < shares.size() && !fit.holds; ++i)
            if (const Fit other = fitOf(shares[i], onlyCertain); other.holds) fit = other;
    }
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

} // namespace jl
