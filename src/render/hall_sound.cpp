#include "render/hall_sound.h"
#include "performer/events.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace jl
{
namespace
{

constexpr double kSpeedOfSound = 343; ///< m/s
constexpr int kEchoes = 5;
const Eigen::Vector3d kZither(-3, 3, 0.8);                                    ///< room frame, m
constexpr std::array kScale{220.0, 261.6, 293.7, 329.6, 392.0, 440.0, 523.3}; ///< Hz, five notes an octave

/// One way the sound takes from a source to the microphone.
struct Way {
    double delay = 0; ///< s
    double gain = 1;
};

class Mix
{
public:
    Mix(const Microphone& microphone, double duration, int rate)
        : m_microphone(microphone), m_rate(rate), m_random(microphone.seed * 2654435761U + 99U),
          m_samples(static_cast<std::size_t>(duration * rate), 0.0F)
    {
        std::uniform_real_distribution<double> delay(0.008, 0.06), gain(0.1, 0.35);
        m_ways.push_back({0, 1});
        for (int i = 0; i < kEchoes; ++i)
            m_ways.push_back({delay(m_random), gain(m_random)});
    }

    /// Adds a source that begins to sound at a time.
    void add(const std::vector<float>& sound, const Eigen::Vector3d& where, double time)
    {
        const double distance = std::max(0.5, (where - m_microphone.position).norm());
        for (const Way& way : m_ways) {
            const auto at = std::llround((time + distance / kSpeedOfSound + way.delay) * m_rate);
            const auto gain = static_cast<float>(way.gain / distance);
            for (std::size_t i = 0; i < sound.size(); ++i) {
                const auto k = static_cast<std::size_t>(at) + i;
                if (k >= m_samples.size()) break;
                m_samples[k] += gain * sound[i];
            }
        }
    }

    std::vector<float> finished()
    {
        std::normal_distribution<float> hiss(0.0F, static_cast<float>(m_microphone.hiss));
        for (float& sample : m_samples)
            sample = std::clamp(sample + hiss(m_random), -1.0F, 1.0F);
        return std::move(m_samples);
    }

private:
    const Microphone& m_microphone;
    int m_rate;
    std::mt19937 m_random;
    std::vector<Way> m_ways;
    std::vector<float> m_samples;
};

/// A plucked string: noise that goes round a loop of one period and is averaged (Karplus and Strong 1983).
std::vector<float> plucked(double frequency, double seconds, int rate, std::mt19937& random)
{
    std::vector<float> loop(static_cast<std::size_t>(rate / frequency));
    std::uniform_real_distribution<float> noise(-0.5F, 0.5F);
    for (float& sample : loop)
        sample = noise(random);
    std::vector<float> out(static_cast<std::size_t>(seconds * rate));
    for (std::size_t i = 0; i < out.size(); ++i) {
        float& here = loop[i % loop.size()];
        out[i] = here;
        here = 0.498F * (here + loop[(i + 1) % loop.size()]);
    }
    return out;
}

/// A sole that meets wood: a low thump and a short brush.
std::vector<float> footfall(double strength, int rate, std::mt19937& random)
{
    std::normal_distribution<double> noise(0, 0.25);
    std::vector<float> out(static_cast<std::size_t>(0.2 * rate));
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double t = static_cast<double>(i) / rate;
        out[i] =
            static_cast<float>(strength * (std::sin(2 * std::numbers::pi * 85 * t) * std::exp(-t / 0.05) +
                                           noise(random) * std::exp(-t / 0.012)));
    }
    return out;
}

} // namespace

std::vector<float> hallSound(const Performance& performance, const Microphone& microphone, int rate,
                             std::uint32_t tune)
{
    Mix mix(microphone, performance.duration(), rate);
    std::mt19937 random(tune);
    std::uniform_real_distribution<double> pause(0.45, 1.9);
    std::uniform_int_distribution<std::size_t> note(0, kScale.size() - 1);
    for (double t = 0.3; t < performance.duration(); t += pause(random))
        mix.add(plucked(kScale[note(random)], 2.5, rate, random), kZither, t);
    for (const FloorEvent& event : floorEvents(performance)) {
        if (event.kind != FloorEvent::Kind::Contact) continue;
        const Figure figure = performance.figureAt(event.time);
        const Landmark foot = event.side == Side::Left ? Landmark::LeftHeel : Landmark::RightHeel;
        mix.add(footfall(0.15 + 0.01 * event.weightAfter, rate, random), figure.landmark[index(foot)],
                event.time);
    }
    return mix.finished();
}

} // namespace jl
