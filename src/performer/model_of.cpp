#include "performer/model_of.h"
#include <memory>

namespace jl
{
namespace
{

constexpr double kModelRate = 30;     ///< frames a second
constexpr double kRearrangedRate = 6; ///< the line-up compares five at an ordinary tempo

ModelPerformance modelOf(const Performance& performance, double framesPerSecond)
{
    ModelPerformance model;
    model.lead = performance.lead();
    model.height = performance.body().height;
    model.framesPerSecond = framesPerSecond;
    for (int i = 0; i <= performance.duration() * framesPerSecond; ++i)
        model.frames.push_back(performance.figureAt(i / framesPerSecond).landmark);
    for (const PerformedPhase& p : performance.phases())
        model.phases.push_back({p.posture, p.phase, p.stance, p.begin, p.time, p.heading, p.lead});
    return model;
}

using Rearrangement = ModelPerformance::Rearrangement;
using Parts = std::vector<Rearrangement::Part>;

/// Orders in which, together, every posture follows itself, the one after it and the one two before it; and
/// in which it is done on the other side between two that are done as usual.
std::vector<Parts> otherOrders(std::size_t places)
{
    std::vector<Parts> orders;
    const auto begin = [&]() -> Parts& { return orders.emplace_back(Parts{{0}}); };
    for (std::size_t first : {1, 2}) {
        Parts& skipping = begin();
        for (std::size_t i = first; i < places; i += 2)
            skipping.push_back({i});
    }
    Parts& twice = begin();
    for (std::size_t i = 1; i < places; ++i)
        twice.insert(twice.end(), 2, {i});
    Parts& back = begin();
    for (std::size_t i = places - 1; i > 0; --i)
        back.push_back({i});
    for (std::size_t odd : {0, 1}) {
        Parts& sides = begin();
        for (std::size_t i = 1; i < places; ++i)
            sides.push_back({i, i % 2 == odd});
    }
    return orders;
}

std::vector<Rearrangement> rearrangements(const Standards& standards, const PerformanceRequest& request)
{
    const FormStandard& form = *standards.form(request.form);
    std::vector<Rearrangement> out;
    for (Parts& parts : otherOrders(form.steps.size())) {
        FormStandard changed = form;
        changed.steps.clear();
        for (const Rearrangement::Part& part : parts) {
            FormStep step = form.steps[part.place];
            step.otherSide = step.otherSide != part.otherSide;
            changed.steps.push_back(std::move(step));
        }
        auto made = Performance::create(standards, changed, request);
        if (!made) continue; // not every posture can follow every other
        const auto performance = std::make_shared<const Performance>(std::move(*made));
        out.push_back({std::move(parts), [performance] { return modelOf(*performance, kRearrangedRate); }});
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
    ModelPerformance model = modelOf(*performance, kModelRate);
    model.rearranged = rearrangements(standards, request);
    return model;
}

} // namespace jl
