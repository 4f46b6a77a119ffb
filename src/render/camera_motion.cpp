#include "render/camera_motion.h"
#include "base/angles.h"
#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace jl
{

Eigen::Vector2d shakeAt(double time, double amplitude, std::uint32_t seed)
{
    constexpr std::array rates{0.31, 0.83, 2.3, 5.1};    // Hz
    constexpr std::array shares{0.45, 0.28, 0.17, 0.10}; // of the amplitude
    std::mt19937 random(seed * 2654435761u + 3u);
    std::uniform_real_distribution<double> phase(0, 2 * std::numbers::pi);
    Eigen::Vector2d offset(0, 0);
    for (std::size_t i = 0; i < rates.size(); ++i)
        for (int axis = 0; axis < 2; ++axis)
            offset[axis] +=
                amplitude * shares[i] * std::sin(2 * std::numbers::pi * rates[i] * time + phase(random));
    return offset;
}

RgbImage croppedAt(const RgbImage& picture, int margin, const Eigen::Vector2d& offset)
{
    RgbImage out(picture.width - 2 * margin, picture.height - 2 * margin);
    const double dx = clampTo(margin + offset.x(), 0, 2.0 * margin),
                 dy = clampTo(margin + offset.y(), 0, 2.0 * margin);
    const int x0 = std::min(static_cast<int>(dx), 2 * margin - 1),
              y0 = std::min(static_cast<int>(dy), 2 * margin - 1);
    const auto fx = static_cast<float>(dx - x0), fy = static_cast<float>(dy - y0);
    for (int y = 0; y < out.height; ++y) {
        const std::uint8_t *upper = picture.row(y + y0) + 3 * x0, *lower = picture.row(y + y0 + 1) + 3 * x0;
        std::uint8_t* to = out.row(y);
        for (int i = 0; i < 3 * out.width; ++i) {
            const float top = upper[i] + fx * (upper[i + 3] - upper[i]);
            const float bottom = lower[i] + fx * (lower[i + 3] - lower[i]);
            // Never negative. NOLINTNEXTLINE(bugprone-incorrect-roundings)
            to[i] = static_cast<std::uint8_t>(top + fy * (bottom - top) + 0.5f);
        }
    }
    return out;
}

RgbImage meanOf(const std::vector<RgbImage>& pictures)
{
    RgbImage out = pictures.front();
    const auto count = static_cast<unsigned>(pictures.size());
    for (std::size_t i = 0; i < out.data.size(); ++i) {
        unsigned sum = count / 2;
        for (const RgbImage& p : pictures)
            sum += p.data[i];
        out.data[i] = static_cast<std::uint8_t>(sum / count);
    }
    return out;
}

std::vector<double> frameTimes(double duration, double framesPerSecond, double uneven, std::uint32_t seed)
{
    std::vector<double> times;
    std::mt19937 random(seed * 40503u + 11u);
    std::uniform_real_distribution<double> share(-1, 1);
    const auto count = static_cast<std::size_t>(std::floor(duration * framesPerSecond)) + 1;
    for (std::size_t i = 0; i < count; ++i) {
        const double even = static_cast<double>(i) / framesPerSecond;
        if (uneven <= 0 || i == 0) {
            times.push_back(even);
            continue;
        }
        const double shift = 0.49 * uneven * share(random) / framesPerSecond;
        if (share(random) < -0.95) continue; // missing
        times.push_back(even + shift);
    }
    return times;
}

} // namespace jl
