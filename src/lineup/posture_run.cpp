#include "lineup/posture_run.h"
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
using Pairs = std::vector<Pair>;

/// One pair a clip time: the middle of those that share it.
Pairs oncePerTime(const Pairs& stairs)
{
    Pairs once;
    for (auto step = stairs.begin(); step != stairs.end();) {
        const auto next =
            std::find_if(step, stairs.end(), [&](const Pair& p) { return p.first > step->first; });
        once.emplace_back(step->first, 0.5 * (step->second + std::prev(next)->second));
        step = next;
    }
    return once;
}

bool followsInForm(const PostureRun& next, const PostureRun& run)
{
    return next.place == run.place + 1 && next.otherSide == run.otherSide && next.turned == run.turned;
}

/// Each pair's mean with as many before as after it.
Pairs averaged(const Pairs& pairs)
{
    constexpr std::size_t most = 3;
    Pairs mean;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const std::size_t reach = std::min({most, i, pairs.size() - 1 - i});
        Pair sum(0, 0);
        for (std::size_t k = i - reach; k <= i + reach; ++k) {
            sum.first += pairs[k].first;
            sum.second += pairs[k].second;
        }
        const auto n = static_cast<double>(2 * reach + 1);
        mean.emplace_back(sum.first / n, sum.second / n);
    }
    return mean;
}

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

void smoothTimePairs(std::vector<PostureRun>& runs)
{
    for (std::size_t first = 0, next = 0; first < runs.size(); first = next) {
        Pairs path;
        std::vector<std::size_t> ends; // of each run's part of the path
        do {
            const Pairs own = oncePerTime(runs[next].timePairs);
            for (const Pair& p : own) // two runs may share their edges
                if (path.empty() || p.first > path.back().first) path.push_back(p);
            ends.push_back(path.size());
            ++next;
        } while (next < runs.size() && followsInForm(runs[next], runs[next - 1]));
        path = averaged(path);
        for (std::size_t i = first, from = 0; i < next; from = ends[i++ - first]) {
            const std::size_t to = ends[i - first];
            if (to - from < 2) continue; // too short to say more than it did
            runs[i].timePairs.assign(path.begin() + static_cast<std::ptrdiff_t>(from),
                                     path.begin() + static_cast<std::ptrdiff_t>(to));
        }
    }
}

} // namespace jl
