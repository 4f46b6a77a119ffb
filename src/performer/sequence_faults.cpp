#include "performer/sequence_faults.h"
#include <algorithm>

namespace jl
{

bool isSequenceFault(const std::string& id)
{
    return id == "left-out" || id == "repeated" || id == "out-of-order" || id == "wrong-side" ||
           id == "wrong-heading";
}

Result<FormStandard> withSequenceFaults(const FormStandard& form, const std::vector<FaultRequest>& faults,
                                        std::vector<PerformedFault>& done)
{
    FormStandard out = form;
    for (const FaultRequest& fault : faults) {
        if (!isSequenceFault(fault.id)) continue;
        // Standing opens the form and stays; without a posture named, the middle one is spoilt.
        auto& steps = out.steps;
        auto step = std::find_if(steps.begin() + 1, steps.end(),
                                 [&](const FormStep& s) { return s.posture == fault.posture; });
        if (fault.posture.empty()) step = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
        const bool last = step != steps.end() && std::next(step) == steps.end();
        if (step == steps.end() || (last && fault.id == "out-of-order"))
            return Error{Error::Kind::WrongUse,
                         "the fault " + fault.id + " cannot be shown with \"" + fault.posture +
                             "\" in this form",
                         "--fault", "Name a posture of the form that is not its first or last."};
        done.push_back({fault.id, fault.size, step->posture, ""});
        if (fault.id == "left-out")
            steps.erase(step);
        else if (fault.id == "repeated")
            steps.insert(step, FormStep(*step));
        else if (fault.id == "out-of-order")
            std::iter_swap(step, std::next(step));
        else if (fault.id == "wrong-side")
            step->otherSide = !step->otherSide;
        else
            step->heading += fault.size;
    }
    return out;
}

} // namespace jl
