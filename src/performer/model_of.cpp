#include "performer/model_of.h"
#include <memory>
#include <mutex>

namespace jl
{
namespace
{

constexpr double kModelRate = 30; ///< frames a second

std::vector<ModelPerformance::Phase> phasesOf(const Performance& performance)
{
    std::vector<ModelPerformance::Phase> phases;
    for (const PerformedPhase& p : performance.phases())
        phases.push_back({p.posture, p.phase, p.stance, p.begin, p.time, p.heading, p.lead});
    return phases;
}

using Rearrangement = ModelPerformance::Rearrangement;
using Parts = std::vector<Rearrangement::Part>;

/// Orders in which, together, every posture follows itself, the one after it and the one two before it, and
/// in which it is done on the other side or in another direction. What was changed lies apart: postures that
/// only shift the weight are done on the feet of those before them.
std::vector<Parts> otherOrders(std::size_t places)
{
    constexpr std::size_t apart = 8;
    std::vector<Parts> orders;
    const auto begin = [&]() -> Parts& { return orders.emplace_back(Parts{{0}}); };
    const auto change = [&](std::size_t first, bool otherSide, double turned) {
        Parts& changed = begin();
        for (std::size_t i = 1; i < places; ++i)
            changed.push_back(i % apart == first ? Rearrangement::Part{i, otherSide, turned}
                                                 : Rearrangement::Part{i});
    };
    for (std::size_t first = 0; first < apart; ++first) {
        Parts& exchanged = begin();
        for (std::size_t i = 1; i < places; ++i) {
            const bool exchange = i % apart == first && i + 1 < places;
            if (exchange) exchanged.push_back({i + 1});
            exchanged.push_back({i});
            i += exchange;
        }
        change(first, true, 0);
        for (double turned : {-90, -45, 45, 90})
            change(first, false, turned);
    }
    Parts& twice = begin();
    for (std::size_t i = 1; i < places; ++i)
        twice.insert(twice.end(), 2, {i});
    return orders;
}

/// What the built-in performer needs to perform a form in other ways.
struct Performer {
    Standards standards;
    FormStandard form;
    PerformanceRequest request;

    std::optional<Rearrangement::Performed> perform(const Parts& parts) const
    {
        FormStandard changed = form;
        changed.steps.clear();
        for (const Rearrangement::Part& part : parts) {
            FormStep step = form.steps[part.place];
            step.otherSide = step.otherSide != part.otherSide;
            step.heading += request.lead == Side::Right ? part.turned : -part.turned;
            changed.steps.push_back(std::move(step));
        }
        auto made = Performance::create(standards, changed, request);
        if (!made) return {}; // not every posture can follow every other
        const auto performance = std::make_shared<const Performance>(std::move(*made));
        const auto at = [performance](double time) { return performance->figureAt(time).landmark; };
        Rearrangement::Performed out{phasesOf(*performance), {}, at};
        out.places = ModelPerformance::placesIn(out.phases, performance->duration());
        if (out.places.size() != parts.size()) return {}; // two of its postures run into one
        return out;
    }
};

/// What is performed at most once.
struct Once {
    std::once_flag flag;
    std::optional<Rearrangement::Performed> performed;
};

std::vector<Rearrangement> rearrangements(const Standards& standards, const PerformanceRequest& request)
{
    const FormStandard& form = *standards.form(request.form);
    const auto performer = std::make_shared<const Performer>(Performer{standards, form, request});
    std::vector<Rearrangement> out;
    for (const Parts& parts : otherOrders(form.steps.size())) {
        const auto once = std::make_shared<Once>();
        out.push_back({parts, [performer, parts, once] {
                           std::call_once(once->flag, [&] { once->performed = performer->perform(parts); });
                           return once->performed;
                       }});
    }
    return out;
}

} // namespace

Result<ModelPerformance> modelPerformance(const Standards& standards, const std::string& form,
                                          const std::string& school, Side lead, const BodyShape& body)
{
    PerformanceRequest request;
    request.form = form;
    request.school = school;
    request.lead = lead;
    request.body = body;
    const auto performance = Performance::create(standards, request);
    if (!performance) return performance.error();
    ModelPerformance model;
    model.lead = performance->lead();
    model.height = performance->body().height;
    model.framesPerSecond = kModelRate;
    for (int i = 0; i <= performance->duration() * kModelRate; ++i)
        model.frames.push_back(performance->figureAt(i / kModelRate).landmark);
    model.phases = phasesOf(*performance);
    model.rearranged = rearrangements(standards, request);
    return model;
}

} // namespace jl
