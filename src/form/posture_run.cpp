#include "form/posture_run.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Along pairs whose keys do not fall; where several share a key, the middle of them is meant.
template <class Key, class Value>
double along(const std::vector<std::pair<double, double>>& pairs, double x, Key key, Value value)
{
    if (pairs.empty()) return x;
    if (x < key(pairs.front())) return value(pairs.front());
    if (x > key(pairs.back())) return value(pairs.back());
    const auto low =
        std::lower_bound(pairs.begin(), pairs.end(), x, [&](const auto& p, double v) { return key(p) < v; });
    const auto high =
        std::upper_bound(pairs.begin(), pairs.end(), x, [&](double v, const auto& p) { return v < key(p); });
    if (low != high) return 0.5 * (value(*low) + value(*std::prev(high)));
    const auto &a = *std::prev(low), &b = *low;
    return value(a) + (value(b) - value(a)) * (x - key(a)) / (key(b) - key(a));
}

using Pair = std::pair<double, double>;

} // namespace

double PostureRun::modelTimeAt(double clipTime) const
{
    return along(
        timePairs, clipTime, [](const Pair& p) { return p.first; }, [](const Pair& p) { return p.second; });
}

double PostureRun::clipTimeAt(double modelTime) const
{
    return along(
        timePairs, modelTime, [](const Pair& p) { return p.second; }, [](const Pair& p) { return p.first; });
}

} // namespace jl
