#include "body/loudness.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <unsupported/Eigen/FFT>

namespace jl
{
namespace
{

constexpr std::size_t kWindow = 128;      ///< samples, 16 ms
constexpr double kFloor = -100;           ///< dB of full scale
constexpr double kLowest = 250;           ///< Hz
constexpr double kLeastDuration = 2;      ///< s
constexpr double kNeighbourhood = 0.15;   ///< s about the best offset that belong to the same agreement
constexpr double kClear = 1.5;            ///< how far the best agreement must stand out
constexpr double kLeastAgreement = 0.1;   ///< correlation
constexpr std::uint8_t kLargestRise = 24; ///< half decibels a step that count: a bang is not everything

using Onsets = std::array<std::vector<float>, LoudnessCourse::kOctaves>;

/// How much louder each octave becomes over two steps, less the clip's mean; nothing where it becomes softer.
Onsets onsetsOf(const LoudnessCourse& course)
{
    Onsets onsets;
    for (std::size_t octave = 0; octave < onsets.size(); ++octave) {
        std::vector<float>& o = onsets[octave];
        o.assign(course.moments.size(), 0.0F);
        for (std::size_t i = 1; i + 1 < o.size(); ++i)
            o[i] =
                static_cast<float>(std::clamp(course.moments[i + 1][octave] - course.moments[i - 1][octave],
                                              0, static_cast<int>(kLargestRise)));
        const float mean =
            Eigen::Map<const Eigen::VectorXf>(o.data(), static_cast<Eigen::Index>(o.size())).mean();
        for (float& value : o)
            value -= mean;
    }
    return onsets;
}

/// Sum over i of a[i] b[i + lag] for every lag; entry lag mod size of the result.
std::vector<float> correlation(const Onsets& a, const Onsets& b, std::size_t size)
{
    Eigen::FFT<float> fourier;
    std::vector<std::complex<float>> sum(size), fa, fb;
    for (std::size_t octave = 0; octave < a.size(); ++octave) {
        std::vector<float> padded = a[octave];
        padded.resize(size, 0.0F);
        fourier.fwd(fa, padded);
        padded = b[octave];
        padded.resize(size, 0.0F);
        fourier.fwd(fb, padded);
        for (std::size_t i = 0; i < size; ++i)
            sum[i] += std::conj(fa[i]) * fb[i];
    }
    std::vector<float> out;
    fourier.inv(out, sum);
    return out;
}

/// Entry n: the sum of squares of the first n steps.
std::vector<double> energies(const Onsets& onsets)
{
    std::vector<double> sums(onsets[0].size() + 1, 0.0);
    for (std::size_t i = 0; i + 1 < sums.size(); ++i) {
        sums[i + 1] = sums[i];
        for (const auto& octave : onsets)
            sums[i + 1] += static_cast<double>(octave[i]) * octave[i];
    }
    return sums;
}

/// The agreement of the sounds, -1 to 1, at every offset from the lowest in steps.
std::vector<double> agreements(const LoudnessCourse& first, const LoudnessCourse& second,
                               std::ptrdiff_t lowest, std::ptrdiff_t highest)
{
    const Onsets a = onsetsOf(first), b = onsetsOf(second);
    const auto na = std::ssize(a[0]), nb = std::ssize(b[0]);
    std::size_t size = 1;
    while (size < static_cast<std::size_t>(na + nb))
        size *= 2;
    const std::vector<float> products = correlation(a, b, size);
    const std::vector<double> ea = energies(a), eb = energies(b);
    std::vector<double> out;
    for (std::ptrdiff_t lag = lowest; lag <= highest; ++lag) {
        const std::ptrdiff_t from = std::max<std::ptrdiff_t>(0, -lag), to = std::min(na, nb - lag);
        const double energy =
            (ea[static_cast<std::size_t>(to)] - ea[static_cast<std::size_t>(from)]) *
            (eb[static_cast<std::size_t>(to + lag)] - eb[static_cast<std::size_t>(from + lag)]);
        const auto at = static_cast<std::size_t>(lag < 0 ? lag + static_cast<std::ptrdiff_t>(size) : lag);
        out.push_back(energy > 1e-9 ? products[at] / std::sqrt(energy) : 0);
    }
    return out;
}

} // namespace

LoudnessCourse loudnessOf(std::span<const float> sound)
{
    constexpr auto step = static_cast<std::size_t>(LoudnessCourse::kStep * LoudnessCourse::kSamplingRate);
    LoudnessCourse course;
    Eigen::FFT<float> fourier;
    std::vector<float> window(kWindow);
    std::vector<std::complex<float>> lines;
    for (std::size_t middle = 0; middle < sound.size(); middle += step) {
        for (std::size_t k = 0; k < kWindow; ++k) {
            const std::size_t at = middle + k - kWindow / 2; // wraps below 0, so beyond the end
            const double hann =
                0.5 - 0.5 * std::cos(2 * std::numbers::pi * (static_cast<double>(k) + 0.5) / kWindow);
            window[k] = at < sound.size() ? static_cast<float>(hann) * sound[at] : 0.0F;
        }
        fourier.fwd(lines, window);
        LoudnessCourse::Moment moment{};
        constexpr double width = static_cast<double>(LoudnessCourse::kSamplingRate) / kWindow;
        for (std::size_t octave = 0; octave < moment.size(); ++octave) {
            const double low = kLowest * static_cast<double>(1U << octave);
            double power = 0;
            for (auto line = static_cast<std::size_t>(low / width);
                 line < static_cast<std::size_t>(2 * low / width); ++line)
                power += static_cast<double>(std::norm(lines[line])) / (0.25 * kWindow * kWindow);
            const double loud = 10 * std::log10(std::max(power, 1e-12));
            moment[octave] = static_cast<std::uint8_t>(std::clamp(2 * (loud - kFloor), 0.0, 255.0));
        }
        course.moments.push_back(moment);
    }
    return course;
}

std::optional<SoundMatch> matchSounds(const LoudnessCourse& first, const LoudnessCourse& second)
{
    const std::ptrdiff_t na = std::ssize(first.moments), nb = std::ssize(second.moments),
                         shorter = std::min(na, nb);
    if (first.duration() < kLeastDuration || second.duration() < kLeastDuration) return {};
    const std::ptrdiff_t lowest = shorter / 2 - na, highest = nb - shorter / 2;
    const std::vector<double> agreement = agreements(first, second, lowest, highest);
    const auto best = std::max_element(agreement.begin(), agreement.end());
    const std::ptrdiff_t at = best - agreement.begin();
    const auto near = static_cast<std::ptrdiff_t>(kNeighbourhood / LoudnessCourse::kStep);
    double next = 0;
    for (std::ptrdiff_t i = 0; i < std::ssize(agreement); ++i)
        if (std::abs(i - at) > near) next = std::max(next, agreement[static_cast<std::size_t>(i)]);
    if (*best < kLeastAgreement || *best < kClear * next) return {};
    double part = 0;
    if (at > 0 && at + 1 < std::ssize(agreement)) {
        const double before = best[-1], after = best[1], bend = before - 2 * *best + after;
        if (bend < 0) part = 0.5 * (before - after) / bend;
    }
    return SoundMatch{(static_cast<double>(at + lowest) + part) * LoudnessCourse::kStep,
                      next > 0 ? *best / next : 1e3};
}

} // namespace jl
