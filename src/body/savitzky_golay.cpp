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
    // Beyond its ends the series goes on as its own picture turned about the end.
    std::vector<double> in(n + 2 * half);
    std::copy(series.begin(), series.end(), in.begin() + half);
    for (int i = 1; i <= half; ++i) {
        in[half - i] = 2 * series.front() - series[std::min(i, n - 1)];
        in[half + n - 1 + i] = 2 * series.back() - series[std::max(n - 1 - i, 0)];
    }
    for (int i = 0; i < n; ++i) {
        double sum = 0;
        for (int k = 0; k <= 2 * half; ++k)
            sum += weight[k] * in[i + k];
        series[i] = sum;
    }
}

} // namespace jl
