#include "performer/fault_table.h"
#include <array>

namespace jl
{
namespace
{

constexpr std::string_view kBeyondBand = "beyond what the school allows";
constexpr std::string_view kFromOwn = "from the faultless value";
constexpr std::optional<double> kOwn{};
using enum Measure;

constexpr std::string_view kForward = "bow bow-low";
constexpr std::string_view kStanding = "bow bow-low sit empty-toe empty-heel one-leg side";

const std::array kPoseFaults{
    PoseFault{{"knee-caves-rear", KneeRearTrack, "m", "inside the foot's axis beyond 3 cm", 0.04, 0.10},
              "sit bow",
              Knob::RearKnee,
              0.30,
              false,
              -0.03},
    PoseFault{{"support-locked", KneeRearFlexion, "deg", "straighter than 5 degrees", 1, 2.5},
              "one-leg",
              Knob::Rise,
              0.25,
              false,
              5},
    PoseFault{{"rear-locked", KneeRearFlexion, "deg", "straighter than 5 degrees", 1, 2.5},
              kForward,
              Knob::Rise,
              0.25,
              false,
              5},
    PoseFault{{"rear-foot-angle", FootRearAngle, "deg", "further out than 57 degrees", 15, 30},
              kForward,
              Knob::RearFootOut,
              80,
              true,
              57},
    PoseFault{{"foot-lead-turned", FootLeadAngle, "deg", "further out than 8 degrees", 14, 35},
              kForward,
              Knob::LeadFootOut,
              60,
              true,
              8},
    PoseFault{{"heel-peels", HeelRearLift, "m", "above 1.5 cm", 0.025, 0.08},
              kForward,
              Knob::RearHeelUp,
              50,
              true,
              0.015},
    PoseFault{
        {"toe-lifts", ToeLeadLift, "m", "above 2 cm", 0.03, 0.10}, "sit", Knob::LeadToesUp, 45, true, 0.02},
    PoseFault{
        {"flat-landing", ToeLeadLift, "m", kFromOwn, 0.06, 0.09}, "step", Knob::LeadToesUp, -18, false, kOwn},
    PoseFault{{"falls-into-step", WeightLead, "%", kBeyondBand, 15, 40},
              "step",
              Knob::LeadWeight,
              0.6,
              true,
              20,
              true},
    PoseFault{
        {"step-from-high", PelvisHeight, "%", kFromOwn, 6, 10}, "empty-toe", Knob::Rise, 0.25, true, kOwn},
    PoseFault{{"weight-short", WeightLead, "%", kBeyondBand, 12, 40},
              kForward,
              Knob::RearWeight,
              0.8,
              false,
              64,
              true},
    PoseFault{{"weight-over", WeightLead, "%", kBeyondBand, 10, 20},
              kForward,
              Knob::LeadWeight,
              0.4,
              true,
              76,
              true},
    PoseFault{{"weight-on-empty", WeightLead, "%", kBeyondBand, 12, 35},
              "empty-toe empty-heel",
              Knob::LeadWeight,
              0.6,
              true,
              12,
              true},
    PoseFault{{"double-weighted", WeightLead, "%", kBeyondBand, 12, 18},
              "sit",
              Knob::LeadWeight,
              0.5,
              true,
              35,
              true},
    PoseFault{
        {"wobble", BalanceMargin, "m", "below 1 cm; with more than 4 cm the foot touches down", 0.02, 0.06},
        "one-leg",
        Knob::Sway,
        0.14,
        false,
        0.01},
    PoseFault{{"hips-not-square", PelvisSquare, "deg", kFromOwn, 20, 40},
              kForward,
              Knob::PelvisToRear,
              60,
              true,
              kOwn},
    PoseFault{
        {"turn-short", PelvisSquare, "deg", kFromOwn, 18, 30}, "sit", Knob::PelvisAhead, 40, false, kOwn},
    PoseFault{
        {"hips-left-behind", WaistTwist, "deg", kFromOwn, 20, 35}, "sit", Knob::PelvisAhead, 45, true, kOwn},
    PoseFault{{"hip-pops", PelvisLevel, "deg", "beyond 7 degrees", 5, 15},
              "one-leg",
              Knob::PelvisTilt,
              25,
              true,
              7},
    PoseFault{{"lean-forward", TrunkLeanForward, "deg", kBeyondBand, 8, 30},
              kForward,
              Knob::LeanForward,
              60,
              true,
              6,
              true},
    PoseFault{{"lean-back", TrunkLeanForward, "deg", kBeyondBand, 8, 20},
              kStanding,
              Knob::LeanBack,
              60,
              false,
              -6,
              true},
    PoseFault{{"lean-side", TrunkLeanSide, "deg", kBeyondBand, 8, 20},
              kStanding,
              Knob::LeanSide,
              40,
              true,
              6,
              true},
    PoseFault{
        {"line-broken", TrunkRearLegLine, "deg", kFromOwn, 14, 30}, kForward, Knob::LeanBack, 50, true, kOwn},
    PoseFault{{"spine-rounds", SpineRound, "deg", "beyond 15 degrees", 8, 30},
              kStanding,
              Knob::Round,
              60,
              true,
              15},
    PoseFault{
        {"head-forward", HeadForward, "m", kFromOwn, 0.05, 0.10}, kStanding, Knob::Round, 50, true, kOwn},
    PoseFault{
        {"gaze-down", GazeDrop, "deg", "below 15 degrees", 15, 40}, kStanding, Knob::LookDown, 60, true, 15},
    PoseFault{
        {"head-tilts", HeadTilt, "deg", "beyond 5 degrees", 7, 25}, kStanding, Knob::HeadTilt, 35, true, 5},
    PoseFault{{"shoulders-up", ShoulderLeadRaise, "%", "below 92 % of standing", 10, 25},
              kStanding,
              Knob::Shrug,
              0.5,
              false,
              92},
    PoseFault{{"shoulders-tip", ShouldersLevel, "deg", "beyond 5 degrees", 5, 15},
              kStanding,
              Knob::ShoulderTilt,
              25,
              true,
              5},
    PoseFault{{"elbow-up", ElbowLeadBelow, "m", kFromOwn, 0.08, 0.16},
              kForward,
              Knob::LeadElbowUp,
              110,
              false,
              kOwn},
    PoseFault{{"elbow-locked", ElbowLeadFlexion, "deg", "straighter than 10 degrees", 2, 3},
              kForward,
              Knob::LeadHandFront,
              0.45,
              false,
              10},
    PoseFault{
        {"reach-over", ArmLeadReach, "%", "above 96 %", 2, 3}, kForward, Knob::LeadHandFront, 0.45, true, 96},
    PoseFault{{"arm-collapsed", ArmLeadReach, "%", kFromOwn, 20, 35},
              kForward,
              Knob::LeadHandBack,
              0.45,
              false,
              kOwn},
    PoseFault{{"hand-off-centre", HandLeadCentre, "m", kFromOwn, 0.14, 0.25},
              kForward,
              Knob::LeadHandOut,
              0.5,
              true,
              kOwn},
    PoseFault{
        {"hand-height", HandLeadHeight, "%", kFromOwn, 25, 45}, kForward, Knob::LeadHandUp, 70, true, kOwn},
    PoseFault{
        {"hands-apart", HandsApart, "m", kFromOwn, 0.16, 0.30}, kForward, Knob::HandsOut, 0.4, true, kOwn},
    PoseFault{{"hand-behind", HandLeadFront, "m", "less than 5 cm in front", 0.06, 0.15},
              kForward,
              Knob::LeadHandBack,
              0.7,
              false,
              0.05},
    PoseFault{
        {"arm-off-leg", ArmOverLeg, "deg", kFromOwn, 22, 45}, "one-leg", Knob::LeadHandOut, 0.6, true, kOwn},
    PoseFault{{"kick-too-high", HipLeadFlexion, "deg", kFromOwn, 15, 30},
              "one-leg",
              Knob::LeadFootUp,
              0.28,
              true,
              kOwn},
};

const std::array kOtherFaults{
    FaultKind{"knee-past-toe", KneeLeadPastToe, "m", "beyond the tip of the toe", 0.06, 0.12},
    FaultKind{"knee-caves-lead", KneeLeadTrack, "m", "inside the foot's axis", 0.06, 0.12},
    FaultKind{"stance-short", StanceLength, "m", "below the school's shortest stance", 0.10, 0.30},
    FaultKind{"stance-long", StanceLength, "m", "above the school's longest stance", 0.08, 0.15},
    FaultKind{"one-line", StanceWidth, "m", "below the school's narrowest stance", 0.08, 0.20},
    FaultKind{"stance-wide", StanceWidth, "m", "above the school's widest stance", 0.10, 0.20},
    FaultKind{"knee-drifts", {}, "m", "travel of the knee while the waist turns", 0.06, 0.12},
    FaultKind{"bobbing", {}, "%", "rise of the pelvis in the middle of a move, of standing height", 5, 10},
    FaultKind{"transfer-jerks", {}, "%", "weight that goes back in the middle of a move", 18, 35},
    FaultKind{"arms-first", {}, "s", "the hands start before the waist", 0.30, 0.8},
    FaultKind{"hands-late", {}, "s", "the hands arrive after the weight", 0.40, 1.0},
    FaultKind{"hands-early", {}, "s", "the hands arrive before the weight", 0.40, 1.0},
    FaultKind{"rushed", {}, "ratio", "of the time a move should take that is missing", 0.4, 0.6},
    FaultKind{"dragged", {}, "ratio", "of the time a move should take that is added", 0.8, 2.0},
    FaultKind{"stops", {}, "s", "stillness in the middle of a move", 0.6, 2.0},
    FaultKind{"order-wrong", {}, "s", "the foot leaves before the weight has gone over", 0.35, 0.8},
    FaultKind{"jerky", {}, "ratio", "of a move's speed that is lost again and again on its way", 0.8, 1},
    FaultKind{"left-out", {}, "ratio", "1: the posture is left out", 1, 1},
    FaultKind{"repeated", {}, "ratio", "1: the posture is done twice", 1, 1},
    FaultKind{"out-of-order", {}, "ratio", "1: the posture is exchanged with the next", 1, 1},
    FaultKind{"wrong-side", {}, "ratio", "1: the posture is led by the other side", 1, 1},
    FaultKind{"wrong-heading", {}, "deg", "the posture's direction turns by", 45, 90},
};

} // namespace

std::span<const PoseFault> poseFaults()
{
    return kPoseFaults;
}

std::span<const FaultKind> otherFaults()
{
    return kOtherFaults;
}

const std::vector<FaultKind>& faultKinds()
{
    static const std::vector<FaultKind> all = [] {
        std::vector<FaultKind> kinds(kOtherFaults.begin(), kOtherFaults.end());
        for (const PoseFault& f : kPoseFaults)
            kinds.push_back(f.kind);
        return kinds;
    }();
    return all;
}

} // namespace jl
