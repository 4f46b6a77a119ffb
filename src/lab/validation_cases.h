#pragma once
#include "base/units.h"
#include "pipeline/shipped_data.h"
#include "render/simulated_clip.h"

namespace jl
{

/// One rendered clip whose truth is known.
struct ValidationCase {
    std::string form = "sparrow-tail", school = "upright-broad";
    std::string view; ///< front, corner, side or behind
    Side lead = Side::Right;
    Degrees azimuthShift = 0; ///< deg added to the view, so that near and far sides occur
    std::size_t body = 0;
    std::uint32_t seed = 1; ///< of the performance
    std::vector<FaultRequest> faults;
    bool heightKnown = true;
    Ratio tempo = 1;
    Ratio lens = 1; ///< focal length against the usual one
    int width = 1280, height = 720;
    double framesPerSecond = 15;
};

/// The quick set: one section over views, sides, bodies and faults, and one clip in eight of a posture that
/// shifts sideways, from its front; the same on every run of a seed.
std::vector<ValidationCase> quickCases(const ShippedData& data, std::uint32_t seed, int count);

/// The full set: every posture in turn, over schools, bodies, sides, faults, tempo, lenses and halls. Cases
/// stand in pairs, one performance filmed by two cameras at once.
std::vector<ValidationCase> fullCases(const ShippedData& data, std::uint32_t seed, int count);

/// One clip of every form, and of every posture that is in none, a few frames a second from the corner or the
/// side: for how well bodies are followed, not for what is measured.
std::vector<ValidationCase> followedCases(const ShippedData& data);

/// The performance and the clip of a case.
Result<Performance> performanceOf(const ShippedData& data, const ValidationCase& c);
ClipRequest clipRequestOf(const ValidationCase& c);

/// Whether two cases are one performance from two sides.
bool filmedAtOnce(const ValidationCase& a, const ValidationCase& b);

/// Names a case by everything that decides its pictures.
std::string caseName(const ShippedData& data, const ValidationCase& c);

} // namespace jl
