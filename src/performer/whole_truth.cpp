#include "performer/whole_truth.h"
#include "performer/phase_truth.h"
#include <algorithm>

namespace jl
{
namespace
{

std::optional<double> valueOf(PhaseMeasure m, const PhaseTruth& t, const FloorEvent* touch)
{
    switch (m) {
    case PhaseMeasure::Duration:
        return t.duration;
    case PhaseMeasure::PelvisTurn:
        return t.pelvisTurn;
    case PhaseMeasure::LeftPivot:
        return t.pivot[Side::Left].amount;
    case PhaseMeasure::RightPivot:
        return t.pivot[Side::Right].amount;
    case PhaseMeasure::LeftPivotOn:
        return t.pivot[Side::Left].about;
    case PhaseMeasure::RightPivotOn:
        return t.pivot[Side::Right].about;
    case PhaseMeasure::PelvisBob:
        return t.bob;
    case PhaseMeasure::KneeLeadDrift:
        return t.kneeDrift;
    case PhaseMeasure::WeightEvenness:
        return t.backwardShift;
    case PhaseMeasure::WeightDoubleTime:
        return t.doubleTime;
    case PhaseMeasure::TurnLeads:
        return t.turnLeads;
    case PhaseMeasure::HandFootLag:
        return t.handsAfterWeight;
    case PhaseMeasure::OrderShiftStep:
        return t.order.shiftStep;
    case PhaseMeasure::OrderTurnStep:
        return t.order.turnStep;
    case PhaseMeasure::OrderShiftTurn:
        return t.order.shiftTurn;
    case PhaseMeasure::OrderShiftSink:
        return t.order.shiftSink;
    case PhaseMeasure::FlowSmoothness:
        return t.smoothness;
    case PhaseMeasure::FlowPauses:
        return t.pauses;
    case PhaseMeasure::BalanceHold:
        return t.oneLegTime;
    case PhaseMeasure::BalanceTouches:
        return t.touches ? std::optional<double>(*t.touches) : std::nullopt;
    case PhaseMeasure::BalanceSway:
        return t.sway;
    case PhaseMeasure::StepHeelToFlat:
        return touch ? std::optional(touch->flatAt - touch->time) : std::nullopt;
    case PhaseMeasure::StepWeightAtContact:
        return touch ? std::optional(touch->weight) : std::nullopt;
    case PhaseMeasure::StepWeightAfter:
        return touch ? std::optional(touch->weightAfter) : std::nullopt;
    case PhaseMeasure::StepDrop:
        return touch ? std::optional(touch->drop) : std::nullopt;
    }
    return {};
}

} // namespace

WholeTruth wholeTruth(const Performance& performance, const PerformedPhase& phase,
                      const std::vector<FloorEvent>& events)
{
    const PhaseTruth truth = phaseTruth(performance, phase);
    const auto touch = std::find_if(events.begin(), events.end(), [&](const FloorEvent& e) {
        return e.kind == FloorEvent::Kind::Contact && e.time > phase.begin && e.time < phase.time;
    });
    WholeTruth out;
    for (const PhaseMeasureInfo& info : allPhaseMeasures())
        out[static_cast<std::size_t>(info.measure)] =
            valueOf(info.measure, truth, touch == events.end() ? nullptr : &*touch);
    if (handsMeetFoot(phase.stance) && truth.handsArrive)
        for (const FloorEvent& e : events)
            if (e.kind == FloorEvent::Kind::Contact && e.side == phase.lead && e.time > phase.begin &&
                e.time <= phase.time)
                out[static_cast<std::size_t>(PhaseMeasure::HandFootLag)] = *truth.handsArrive - e.time;
    return out;
}

} // namespace jl
