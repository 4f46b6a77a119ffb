#include "performer/model_of.h"

namespace jl
{

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
    model.lead = lead;
    model.height = request.body.height;
    model.framesPerSecond = 30;
    for (int i = 0; i <= performance->duration() * model.framesPerSecond; ++i)
        model.frames.push_back(performance->figureAt(i / model.framesPerSecond).landmark);
    for (const PerformedPhase& p : performance->phases())
        model.phases.push_back({p.posture, p.phase, p.stance, p.begin, p.time, p.heading, p.lead});
    return model;
}

} // namespace jl
