#pragma once
#include "lab/validation_cases.h"
#include <optional>
#include <utility>

namespace jl
{

/// One performance that is to be judged, without rendering: what is wrong with it is known.
struct JudgementCase {
    enum class Kind {
        Clean,
        Faults,   ///< one to three faults of poses and moves
        Chain,    ///< faults of which one is the cause of the next
        Sequence, ///< something is wrong with the order of postures
        Cut,      ///< clean, but the clip begins and ends in the middle of the form
    };
    Kind kind = Kind::Clean;
    ValidationCase clip;
    bool secondCamera = false; ///< a second one films at once, from the front
    std::vector<std::pair<double, double>>
        pauses; ///< (moment of the performance, length of standing still), s
    std::optional<std::pair<double, double>> shown; ///< the part of the performance that is filmed, s
    std::vector<std::string> chain;                 ///< from the cause to its consequences
};

/// Postures or forms over schools, bodies, views, tempos of 0.6 to 1.6, with pauses; faults of 1.5 to 3 times
/// what is allowed. The same on every run of a seed.
std::vector<JudgementCase> judgementCases(const ShippedData& data, std::uint32_t seed, int count);

/// What the performance shows at each frame of the clip, s.
std::vector<double> filmedMoments(const JudgementCase& c, const Performance& performance);

/// When in the clip a moment of the performance begins and stops being shown, s; equal but at a pause.
std::pair<double, double> clipTimesOf(const JudgementCase& c, double moment);

} // namespace jl
