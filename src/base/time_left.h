#pragma once
#include <chrono>
#include <string>

namespace jl
{

/// A time as people say it while they wait: "a few seconds", "about half a minute", "about two minutes",
/// "about an hour". Seconds, not negative.
std::string waitWords(double seconds);

/// How long work will still take, from the share that is done. Early estimates jump: none is given before
/// one second and two per cent.
class TimeLeft
{
public:
    TimeLeft() : m_begin(std::chrono::steady_clock::now()) {}

    /// "about two minutes left"; empty while nothing can be said.
    std::string words(double share) const;
    /// The same for work of which it is known how long it has taken, s.
    static std::string words(double share, double spent);

private:
    std::chrono::steady_clock::time_point m_begin;
};

} // namespace jl
