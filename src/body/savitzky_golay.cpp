#include "body/savitzky_golay.h"
#include <algorithm>

namespace jl
{

void savitzkyGolay(std::vector<double>& series, int half)
{
    const int n = static_cast<int>(series.size());
    half = std::min(half, (n - 1) / 2);
    if (half < 2) return; // order 2 over three samples changes nothing
    std::vector<double> weight(2 * half + 1);
    const double m = half;
    const double scale = 3.0 / ((2 * m - 1) * (2 * m + 1) * (2 * m + 3));
    for (int i = -half; i <= half; ++i)
        weight[i + half] = scale * (3 * m * m + 3 * m - 1 - 5.0 * i * i);
    const std::vector<double> in = series;
    const auto sample = [&](int i) {
        if (i < 0) return 2 * in.front() - in[std::min(-i, n - 1)];
        if (i >= n) return 2 * in.back() - in[std::max(2 * (n - 1) - i, 0)];
        return in[i];
    };
    for (int i = 0; i < n; ++i) {
        double sum = 0;
        for (int k = -half; k <= half; ++k)
            sum += weight[k + half] * sample(i + k);
        series[i] = sum;
    }
}

} // namespace jl
