#include "lab/validation_cases.h"
#include "base/angles.h"
#include <algorithm>
#include <cstdio>
#include <random>
#include <set>

namespace jl
{

namespace
{
constexpr std::size_t kOrdinaryBodies = 6; ///< they come first; those with limits or unusual sizes follow
constexpr std::size_t kEveryBody = 10;

/// Faults of the measures that are read from clips.
constexpr std::array kReadFaults{"knee-past-toe", "knee-caves-lead", "stance-short",
                                 "one-line",      "lean-forward",    "weight-short"};

FaultRequest usualFault(const char* id, double size)
{
    const FaultKind& kind = *std::find_if(faultKinds().begin(), faultKinds().end(),
                                          [&](const FaultKind& k) { return k.id == id; });
    return {std::string(kind.id), kind.usual * size};
}

/// The posture whose weight goes from side to side, filmed from where it faces.
void standSideways(const ShippedData& data, ValidationCase& c)
{
    c.form = "cloud-hands";
    c.faults.clear();
    if (const auto performance = performanceOf(data, c))
        c.azimuthShift = wrapDeg(performance->phases().back().heading);
}

} // namespace

std::vector<ValidationCase> quickCases(const ShippedData& data, std::uint32_t seed, int count)
{
    std::mt19937 random(seed);
    const auto pick = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
    std::vector<ValidationCase> cases;
    const char* views[] = {"side", "front", "side", "front", "side", "behind", "front", "side"};
    for (int i = 0; i < count; ++i) {
        ValidationCase c;
        c.view = views[i % std::size(views)];
        c.lead = pick(2) ? Side::Right : Side::Left;
        // A side camera stands on either side, so that the front leg is now the near, now the far one.
        if (c.view == "side" && pick(2)) c.azimuthShift = 180;
        c.body = pick(std::min<std::size_t>(kOrdinaryBodies, data.bodies.size()));
        c.seed = static_cast<std::uint32_t>(random() % 100000u + 1);
        if (pick(2)) {
            const char* id = kReadFaults[pick(kReadFaults.size())];
            c.faults.push_back(usualFault(id, 0.8 + 0.1 * static_cast<double>(pick(6))));
        }
        if (i % 8 == 6) standSideways(data, c);
        cases.push_back(std::move(c));
    }
    return cases;
}

std::vector<ValidationCase> fullCases(const ShippedData& data, std::uint32_t seed, int count)
{
    std::vector<std::string> postures;
    for (const FormStandard& f : data.standards.forms)
        if (f.single && f.id != "stand") postures.push_back(f.id);
    std::vector<ValidationCase> cases;
    for (int i = 0; i < count; i += 2) {
        // Each pair has a sequence of its own, so that a longer set begins with the shorter one.
        std::mt19937 random(seed * 7919u + static_cast<std::uint32_t>(i));
        const auto pick = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
        ValidationCase c;
        c.form = postures[static_cast<std::size_t>(i / 2 * 17) % postures.size()];
        c.school = data.standards.schools[pick(data.standards.schools.size())].id;
        c.lead = pick(2) ? Side::Right : Side::Left;
        c.body = pick(std::min(kEveryBody, data.bodies.size()));
        c.seed = static_cast<std::uint32_t>(random() % 100000u + 1);
        c.tempo = 0.9 + 0.1 * static_cast<double>(pick(5));
        c.lens = 0.92 + 0.04 * static_cast<double>(pick(5));
        c.heightKnown = pick(5) != 0;
        c.width = 960;
        c.height = 540;
        c.framesPerSecond = 10;
        if (pick(2)) c.faults.push_back(usualFault(kReadFaults[pick(kReadFaults.size())], 1));
        if (!performanceOf(data, c)) c.faults.clear(); // no such stance in this posture
        c.view = "side";
        c.azimuthShift = pick(2) ? 180 : 0;
        cases.push_back(c);
        const std::array others{"front", "front", "front", "corner", "behind"};
        c.view = others[pick(others.size())];
        c.azimuthShift = c.view == "corner" && pick(2) ? -90 : 0;
        cases.push_back(std::move(c));
    }
    cases.resize(std::min(cases.size(), static_cast<std::size_t>(count)));
    return cases;
}

std::vector<ValidationCase> followedCases(const ShippedData& data)
{
    std::vector<ValidationCase> cases;
    std::set<std::string> covered;
    const auto add = [&](const FormStandard& form) {
        for (const FormStep& step : form.steps)
            covered.insert(step.posture);
        ValidationCase c;
        c.form = form.id;
        c.body = cases.size() % data.bodies.size();
        c.seed = static_cast<std::uint32_t>(cases.size() + 1);
        c.view = cases.size() % 2 ? "side" : "corner";
        c.width = 960;
        c.height = 540;
        c.framesPerSecond = 6;
        cases.push_back(std::move(c));
    };
    for (const FormStandard& form : data.standards.forms)
        if (!form.single) add(form);
    for (const FormStandard& form : data.standards.forms)
        if (form.single && !covered.contains(form.id)) add(form);
    return cases;
}

bool filmedAtOnce(const ValidationCase& a, const ValidationCase& b)
{
    return a.seed == b.seed && a.form == b.form && a.view != b.view;
}

ClipRequest clipRequestOf(const ValidationCase& c)
{
    ClipRequest clip;
    clip.camera = *cameraPlace(c.view, c.seed);
    clip.camera.azimuth = wrapDeg(clip.camera.azimuth + c.azimuthShift);
    clip.camera.lens = c.lens;
    clip.width = c.width;
    clip.height = c.height;
    clip.framesPerSecond = c.framesPerSecond;
    clip.seed = c.seed;
    clip.hall = halls()[c.seed % halls().size()].id;
    return clip;
}

Result<Performance> performanceOf(const ShippedData& data, const ValidationCase& c)
{
    PerformanceRequest request;
    request.form = c.form;
    request.school = c.school;
    request.tempo = c.tempo;
    request.lead = c.lead;
    request.body = data.bodies[c.body];
    request.seed = c.seed;
    request.faults = c.faults;
    return Performance::create(data.standards, request);
}

std::string caseName(const ShippedData& data, const ValidationCase& c)
{
    char text[160];
    std::snprintf(text, sizeof text, "-%d-%u-%dx%d@%g-t%.2f-l%.2f", static_cast<int>(c.azimuthShift), c.seed,
                  c.width, c.height, c.framesPerSecond, c.tempo, c.lens);
    std::string name = c.form + "-" + c.school + "-" + c.view + (c.lead == Side::Left ? "-L-" : "-R-") +
                       data.bodies[c.body].id + text;
    for (const FaultRequest& f : c.faults) {
        std::snprintf(text, sizeof text, "-%.4f", f.size);
        name += "-" + f.id + text;
    }
    return name;
}

} // namespace jl
