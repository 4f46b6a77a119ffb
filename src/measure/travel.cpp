#include "measure/travel.h"
#include <algorithm>
#include <cmath>

namespace jl
{

Travel travelOf(const std::vector<double>& speed, const std::vector<double>& time, double resting,
                double share)
{
    Travel t;
    if (speed.empty()) return t;
    t.peak = *std::max_element(speed.begin(), speed.end());
    const double threshold = std::max(share * t.peak, resting);
    const auto isMoving = [&](double s) { return s > threshold; };
    bool begun = false;
    for (auto from = speed.begin(); from != speed.end();) {
        from = std::find_if(from, speed.end(), isMoving);
        const auto to = std::find_if_not(from, speed.end(), isMoving);
        if (from == to) break;
        const double first = time[static_cast<std::size_t>(from - speed.begin())],
                     last = time[static_cast<std::size_t>(to - speed.begin() - 1)];
        const bool isPeak = std::find(from, to, t.peak) != to;
        if (isPeak || last - first >= kTwitch) {
            if (!begun) t.start = first;
            begun = true;
            t.arrival = last;
        }
        from = to;
    }
    return t;
}

std::vector<double> changeOf(const std::vector<double>& course, double step)
{
    std::vector<double> speed(course.size(), 0);
    for (std::size_t i = 0; i < course.size(); ++i) {
        const std::size_t a = i > 0 ? i - 1 : 0, b = std::min(i + 1, course.size() - 1);
        if (b > a) speed[i] = std::abs(course[b] - course[a]) / (static_cast<double>(b - a) * step);
    }
    return speed;
}

std::optional<double> overlapOf(const std::vector<double>& speed, const std::vector<double>& time,
                                double moment, double share)
{
    if (speed.empty()) return {};
    const double least = share * *std::max_element(speed.begin(), speed.end());
    const auto moves = [&](std::size_t k) { return speed[k] > least; };
    const auto at = std::lower_bound(time.begin(), time.end(), moment);
    const auto then = static_cast<std::size_t>(
        std::min<std::ptrdiff_t>(at - time.begin(), static_cast<std::ptrdiff_t>(time.size()) - 1));
    std::size_t i = then;
    while (i + 1 < speed.size() && !moves(i) && time[i] < moment + kTogether)
        ++i;
    if (moves(i)) {
        while (i + 1 < speed.size() && moves(i))
            ++i;
        return time[i] - moment;
    }
    i = then;
    while (i > 0 && !moves(i))
        --i;
    if (i == 0) return {};
    return time[i] - moment;
}

} // namespace jl
