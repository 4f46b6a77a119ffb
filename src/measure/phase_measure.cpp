#include "measure/phase_measure.h"
#include <array>

namespace jl
{
namespace
{

using enum PhaseMeasure;

constexpr std::array<PhaseMeasureInfo, kPhaseMeasureCount> kInfo{{
    {Duration, "phase.duration", "Time of the phase",
     "From the start of the move to its arrival, the middle of the stillness.", "s"},
    {PelvisTurn, "pelvis.turn", "Turn of the pelvis",
     "Change of the pelvis' heading over the phase; to the right is positive.", "deg", true},
    {LeftPivot, "pivot.L.amount", "Turn of the left foot",
     "How far a foot that stays on its place turns; to the right is positive.", "deg", true},
    {RightPivot, "pivot.R.amount", "Turn of the right foot",
     "How far a foot that stays on its place turns; to the right is positive.", "deg", true},
    {LeftPivotOn, "pivot.L.on", "The left foot turns about",
     "Which point of a foot that turns on its place stays: 0 is the heel, 100 the ball, between them the "
     "whole foot.",
     "%", true},
    {RightPivotOn, "pivot.R.on", "The right foot turns about",
     "Which point of a foot that turns on its place stays: 0 is the heel, 100 the ball, between them the "
     "whole foot.",
     "%", true},
    {PelvisBob, "pelvis.bob", "Rise and fall of the pelvis",
     "Highest less lowest height of the mid-hip in the phase, as a share of its height in standing.", "%"},
    {KneeLeadDrift, "knee.lead.drift", "Wandering of the front knee",
     "How far the plumb of the front knee travels over the floor.", "m"},
    {WeightEvenness, "weight.transfer.evenness", "Evenness of the shift",
     "Largest step back of the weight in a shift that goes one way; 0 is even.", "%", false, true},
    {WeightDoubleTime, "weight.double.time", "Time on both legs",
     "How long the front leg carries between 45 and 55 %.", "s", false, true},
    {TurnLeads, "turn.leads", "Waist before hands",
     "From the start of the pelvis' turn to the start of the hands' travel; negative: the arms went first.",
     "s", true},
    {HandFootLag, "hand_foot.lag", "Hands after weight or foot",
     "Arrival of the hands less arrival of the weight, each where it falls below a tenth of its speed; in "
     "empty stances less the touch of the front foot.",
     "s", true, true},
    {OrderShiftStep, "order.shift.step", "Shift into the step",
     "How long the weight still goes over after the other foot has left the floor.", "s", false, true},
    {OrderTurnStep, "order.turn.step", "Turn into the step",
     "How long the pelvis still turns after a foot has left the floor; negative: it had come to rest.", "s",
     true},
    {OrderShiftTurn, "order.shift.turn", "Shift into the turn",
     "How long the centre of mass still goes over the floor after the pelvis has begun to turn; negative: it "
     "had come to rest.",
     "s", true},
    {OrderShiftSink, "order.shift.sink", "Shift into the sinking",
     "Where no foot steps: how long the centre of mass still goes over the floor after the shoulders have "
     "begun to sink; negative: it had come to rest.",
     "s", true, true},
    {FlowSmoothness, "flow.smoothness", "Smoothness",
     "Spectral arc length of the speed of hands and pelvis without long stops, the less smooth of the two; "
     "nearer to 0 is smoother.",
     "", true},
    {FlowPauses, "flow.pauses", "Pauses", "Stops of more than 0.3 s on the way.", ""},
    {BalanceHold, "balance.hold", "Time on one leg", "How long one foot is off the floor in the phase.", "s"},
    {BalanceTouches, "balance.touches", "Touch-downs on one leg",
     "How often the lifted foot comes down to the floor and goes up again before the pose on one leg.", ""},
    {BalanceSway, "balance.sway", "Sway",
     "Area of the 95 % ellipse of the centre of mass on the floor while the pose is held.", "m2"},
    {StepHeelToFlat, "step.heel_to_flat", "Heel to whole foot",
     "From the touch of a stepping foot to where its whole sole lies.", "s"},
    {StepWeightAtContact, "step.weight_at_contact", "Weight at touch-down",
     "Share of the weight on a stepping foot when it touches.", "%", false, true},
    {StepWeightAfter, "step.weight_after", "Weight just after touch-down",
     "Largest share of the weight on a stepping foot in the quarter second after it touches.", "%", false,
     true},
    {StepDrop, "step.drop", "Falling into the step", "How fast the pelvis sinks when a foot touches.", "m/s",
     true},
}};

} // namespace

const PhaseMeasureInfo& phaseMeasureInfo(PhaseMeasure m)
{
    return kInfo[static_cast<std::size_t>(m)];
}

std::span<const PhaseMeasureInfo> allPhaseMeasures()
{
    return kInfo;
}

std::optional<PhaseMeasure> phaseMeasureFromKey(std::string_view key)
{
    for (const PhaseMeasureInfo& info : kInfo)
        if (info.key == key) return info.measure;
    return {};
}

} // namespace jl
