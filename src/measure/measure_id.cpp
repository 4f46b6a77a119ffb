#include "measure/measure_id.h"
#include <algorithm>
#include <array>

namespace jl
{
namespace
{

constexpr std::string_view kSideView = "a clip from the side";
constexpr std::string_view kTwoViews = "two clips filmed at once";
constexpr std::string_view kFrontView = "a clip from the front, within 10 degrees";

using enum Unit;
constexpr std::array<MeasureInfo, kMeasureCount> kInfo{{
    {Measure::KneeLeadFlexion, "knee.lead.flexion", "Front knee bend",
     "180 degrees minus the angle hip, knee, ankle of the front leg; a straight leg is 0.",
     "in the plane of travel", Degree, Rung::Knees, Limb::Knee, LimbSide::Lead, kSideView},
    {Measure::KneeRearFlexion, "knee.rear.flexion", "Rear knee bend",
     "180 degrees minus the angle hip, knee, ankle of the rear leg; a straight leg is 0.",
     "in the plane of the leg", Degree, Rung::Knees, Limb::Knee, LimbSide::Rear, "two clips filmed at once"},
    {Measure::HipLeadFlexion, "hip.lead.flexion", "Front hip fold",
     "Angle between the trunk axis and the front thigh; standing straight is 0.", "in the plane of travel",
     Degree, Rung::Hips, Limb::Leg, LimbSide::Lead, kSideView},
    {Measure::HipRearFlexion, "hip.rear.flexion", "Rear hip fold",
     "Angle between the trunk axis and the rear thigh; standing straight is 0.", "in the plane of travel",
     Degree, Rung::Hips, Limb::Leg, LimbSide::Rear, "two clips filmed at once"},
    {Measure::ElbowLeadFlexion, "elbow.lead.flexion", "Front elbow bend",
     "180 degrees minus the angle shoulder, elbow, wrist of the arm on the front leg's side.",
     "in the plane of the arm", Degree, Rung::Arms, Limb::Arm, LimbSide::Lead, "a view square to the arm"},
    {Measure::ElbowRearFlexion, "elbow.rear.flexion", "Rear elbow bend",
     "180 degrees minus the angle shoulder, elbow, wrist of the arm on the rear leg's side.",
     "in the plane of the arm", Degree, Rung::Arms, Limb::Arm, LimbSide::Rear, "a view square to the arm"},
    {Measure::KneeLeadPastToe, "knee.lead.past_toe", "Front knee past toe",
     "How far a plumb line from the front knee falls beyond the tip of the toe, along the foot; behind the "
     "toe is negative.",
     "along the front foot", Metre, Rung::Knees, Limb::Knee, LimbSide::Lead, kSideView},
    {Measure::KneeLeadTrack, "knee.lead.track", "Front knee tracking",
     "How far a plumb line from the front knee falls beside the foot's axis; outward is positive, caved in "
     "is negative.",
     "across the front foot", Metre, Rung::Knees, Limb::Knee, LimbSide::Lead, kFrontView},
    {Measure::StanceLength, "stance.length", "Stance length",
     "Distance from heel to heel along the direction of the posture.", "along the posture's direction", Metre,
     Rung::Feet, Limb::None, LimbSide::Neither, kSideView},
    {Measure::StanceWidth, "stance.width", "Stance width",
     "Distance from heel to heel across the direction of the posture; 0 is one line, negative is crossed.",
     "across the posture's direction", Metre, Rung::Feet, Limb::None, LimbSide::Neither,
     "a clip from the front"},
    {Measure::TrunkLeanForward, "trunk.lean.forward", "Lean forward",
     "Line from mid-hip to mid-shoulder against the vertical, in the posture's direction; back is negative.",
     "along the posture's direction", Degree, Rung::Trunk, Limb::None, LimbSide::Neither, kSideView},
    {Measure::TrunkLeanSide, "trunk.lean.side", "Lean sideways",
     "Line from mid-hip to mid-shoulder against the vertical, across the posture's direction; to the right "
     "is positive.",
     "across the posture's direction", Degree, Rung::Trunk, Limb::None, LimbSide::Neither,
     "a clip from the front or behind"},
    {Measure::WeightLead, "weight.lead", "Weight on the front leg",
     "Estimated share carried by the front leg: where the centre of pressure lies between the two foot "
     "centres.",
     "between the foot centres", PerCent, Rung::Weight, Limb::None, LimbSide::Neither, kSideView},
    {Measure::FootLeadAngle, "foot.lead.angle", "Front foot angle",
     "Heading of the front foot against the direction of the posture; turned out is positive.",
     "on the floor", Degree, Rung::Feet, Limb::Foot, LimbSide::Lead, kTwoViews},
    {Measure::FootRearAngle, "foot.rear.angle", "Rear foot angle",
     "Heading of the rear foot against the direction of the posture; turned out is positive.", "on the floor",
     Degree, Rung::Feet, Limb::Foot, LimbSide::Rear, kTwoViews},
    {Measure::HeelRearLift, "heel.rear.lift", "Rear heel lift",
     "Height of the rear heel above where it lies when the foot is flat.", "vertical", Metre, Rung::Feet,
     Limb::Foot, LimbSide::Rear, kSideView},
    {Measure::ToeLeadLift, "toe.lead.lift", "Front toe lift",
     "Height of the front toes above where they lie when the foot is flat.", "vertical", Metre, Rung::Feet,
     Limb::Foot, LimbSide::Lead, kSideView},
    {Measure::FeetParallelWidth, "feet.parallel.width", "Width of parallel feet",
     "Distance between the axes of the two feet, square to them.", "on the floor", Metre, Rung::Feet,
     Limb::None, LimbSide::Neither, "a clip from the front"},
    {Measure::LegLeadSplay, "leg.lead.splay", "Front leg splay",
     "Line from hip to ankle of the front leg against the vertical, seen from the front; outward is "
     "positive.",
     "across the pelvis", Degree, Rung::Feet, Limb::Leg, LimbSide::Lead, "a clip from the front"},
    {Measure::LegRearSplay, "leg.rear.splay", "Rear leg splay",
     "Line from hip to ankle of the rear leg against the vertical, seen from the front; outward is positive.",
     "across the pelvis", Degree, Rung::Feet, Limb::Leg, LimbSide::Rear, "a clip from the front"},
    {Measure::BalanceMargin, "balance.margin", "Balance margin",
     "Distance from the extrapolated centre of mass to the nearest edge of the feet on the floor; outside is "
     "negative.",
     "on the floor", Metre, Rung::Weight, Limb::None, LimbSide::Neither, kTwoViews},
    {Measure::KneeRearTrack, "knee.rear.track", "Rear knee tracking",
     "How far a plumb line from the rear knee falls beside the foot's axis; outward is positive, caved in is "
     "negative.",
     "across the rear foot", Metre, Rung::Knees, Limb::Knee, LimbSide::Rear, kTwoViews},
    {Measure::KneesOpen, "knees.open", "Openness of the knees",
     "Distance between the knees less the distance between the ankles.", "across the posture's direction",
     Metre, Rung::Knees, Limb::None, LimbSide::Neither, "a clip from the front"},
    {Measure::PelvisSquare, "pelvis.square", "Pelvis against the direction",
     "Heading of the pelvis against the direction of the posture; to the right is positive.",
     "seen from above", Degree, Rung::Hips, Limb::None, LimbSide::Neither, kTwoViews},
    {Measure::WaistTwist, "waist.twist", "Waist twist",
     "Heading of the shoulders against that of the pelvis; to the right is positive.", "seen from above",
     Degree, Rung::Hips, Limb::None, LimbSide::Neither, kTwoViews},
    {Measure::PelvisLevel, "pelvis.level", "Pelvis level",
     "Line from hip to hip against the horizontal; the right side higher is positive.", "seen from the front",
     Degree, Rung::Hips, Limb::None, LimbSide::Neither, "a clip from the front"},
    {Measure::PelvisHeight, "pelvis.height", "Pelvis height",
     "Height of the mid-hip as a share of its height in standing.", "vertical", PerCent, Rung::Hips,
     Limb::None, LimbSide::Neither, kSideView},
    {Measure::TrunkRearLegLine, "trunk.rear_leg_line", "Line of rear leg and trunk",
     "Angle between the trunk and the line from the rear heel to the mid-hip.",
     "in the plane of the two lines", Degree, Rung::Trunk, Limb::None, LimbSide::Neither, kSideView},
    {Measure::SpineRound, "spine.round", "Rounding of the spine",
     "Angle between the trunk and the line from mid-shoulder to mid-ear, forward.",
     "along the shoulders' heading", Degree, Rung::Trunk, Limb::None, LimbSide::Neither, kSideView},
    {Measure::ColumnOffset, "column.offset", "Column",
     "Largest horizontal distance of ear, shoulder, hip and ankle from the vertical through their mean.",
     "seen from the side", Metre, Rung::Trunk, Limb::None, LimbSide::Neither, kSideView},
    {Measure::ShouldersLevel, "shoulders.level", "Shoulders level",
     "Line from shoulder to shoulder against the horizontal; the right side higher is positive.",
     "seen from the front", Degree, Rung::Arms, Limb::None, LimbSide::Neither, "a clip from the front"},
    {Measure::ShoulderLeadRaise, "shoulder.lead.raise", "Front shoulder to ear",
     "Height from the front shoulder to the ear as a share of its height in standing.", "vertical", PerCent,
     Rung::Arms, Limb::Shoulder, LimbSide::Lead, kSideView},
    {Measure::ShoulderRearRaise, "shoulder.rear.raise", "Rear shoulder to ear",
     "Height from the rear shoulder to the ear as a share of its height in standing.", "vertical", PerCent,
     Rung::Arms, Limb::Shoulder, LimbSide::Rear, kSideView},
    {Measure::ElbowLeadBelow, "elbow.lead.below_shoulder", "Front elbow below shoulder",
     "Height of the front shoulder less that of its elbow.", "vertical", Metre, Rung::Arms, Limb::Arm,
     LimbSide::Lead, kSideView},
    {Measure::ElbowRearBelow, "elbow.rear.below_shoulder", "Rear elbow below shoulder",
     "Height of the rear shoulder less that of its elbow.", "vertical", Metre, Rung::Arms, Limb::Arm,
     LimbSide::Rear, kSideView},
    {Measure::ElbowLeadFlare, "elbow.lead.flare", "Front elbow flare",
     "Angle of the front upper arm out of the vertical plane through shoulder and wrist; outward is "
     "positive.",
     "out of the arm's plane", Degree, Rung::Arms, Limb::Arm, LimbSide::Lead, kTwoViews},
    {Measure::ElbowRearFlare, "elbow.rear.flare", "Rear elbow flare",
     "Angle of the rear upper arm out of the vertical plane through shoulder and wrist; outward is positive.",
     "out of the arm's plane", Degree, Rung::Arms, Limb::Arm, LimbSide::Rear, kTwoViews},
    {Measure::ArmLeadReach, "arm.lead.reach", "Front arm reach",
     "Distance from shoulder to wrist as a share of the length of the arm.", "in space", PerCent, Rung::Arms,
     Limb::Arm, LimbSide::Lead, kTwoViews},
    {Measure::ArmRearReach, "arm.rear.reach", "Rear arm reach",
     "Distance from shoulder to wrist as a share of the length of the arm.", "in space", PerCent, Rung::Arms,
     Limb::Arm, LimbSide::Rear, kTwoViews},
    {Measure::HandLeadHeight, "hand.lead.height", "Front hand height",
     "Height of the wrist on the torso: 0 is the hip line, 100 the shoulder line.", "along the trunk",
     PerCent, Rung::Arms, Limb::Hand, LimbSide::Lead, kSideView},
    {Measure::HandRearHeight, "hand.rear.height", "Rear hand height",
     "Height of the wrist on the torso: 0 is the hip line, 100 the shoulder line.", "along the trunk",
     PerCent, Rung::Arms, Limb::Hand, LimbSide::Rear, kSideView},
    {Measure::HandLeadCentre, "hand.lead.centre", "Front hand off centre",
     "Distance of the wrist from the middle plane of the chest; to its own side is positive.",
     "across the chest", Metre, Rung::Arms, Limb::Hand, LimbSide::Lead, kTwoViews},
    {Measure::HandRearCentre, "hand.rear.centre", "Rear hand off centre",
     "Distance of the wrist from the middle plane of the chest; to its own side is positive.",
     "across the chest", Metre, Rung::Arms, Limb::Hand, LimbSide::Rear, kTwoViews},
    {Measure::HandLeadFront, "hand.lead.front", "Front hand before the body",
     "Distance of the wrist in front of the plane of the chest; behind it is negative.",
     "along the chest's heading", Metre, Rung::Arms, Limb::Hand, LimbSide::Lead, kTwoViews},
    {Measure::HandRearFront, "hand.rear.front", "Rear hand before the body",
     "Distance of the wrist in front of the plane of the chest; behind it is negative.",
     "along the chest's heading", Metre, Rung::Arms, Limb::Hand, LimbSide::Rear, kTwoViews},
    {Measure::PalmLeadUp, "palm.lead.up", "Front palm up or down",
     "How far the palm looks up: 90 is up, 0 to the side, -90 down.", "against the horizontal", Degree,
     Rung::Arms, Limb::Palm, LimbSide::Lead, kTwoViews},
    {Measure::PalmRearUp, "palm.rear.up", "Rear palm up or down",
     "How far the palm looks up: 90 is up, 0 to the side, -90 down.", "against the horizontal", Degree,
     Rung::Arms, Limb::Palm, LimbSide::Rear, kTwoViews},
    {Measure::HandsApart, "hands.apart", "Hands apart", "Distance from wrist to wrist.", "in space", Metre,
     Rung::Arms, Limb::Arms, LimbSide::Neither, kTwoViews},
    {Measure::ArmsParallel, "arms.parallel", "Forearms parallel", "Angle between the two forearms.",
     "seen from above", Degree, Rung::Arms, Limb::Arms, LimbSide::Neither, kTwoViews},
    {Measure::ArmOverLeg, "arm.over_leg", "Arm over leg",
     "Heading from shoulder to wrist less that from hip to ankle on the front side; to the right is "
     "positive.",
     "seen from above", Degree, Rung::Arms, Limb::Arm, LimbSide::Lead, kTwoViews},
    {Measure::HeadForward, "head.forward", "Head forward", "Distance of the ears in front of the shoulders.",
     "along the shoulders' heading", Metre, Rung::Head, Limb::None, LimbSide::Neither, kSideView},
    {Measure::HeadTilt, "head.tilt", "Head tilt",
     "Line from ear to ear against the horizontal; the right side higher is positive.", "seen from the front",
     Degree, Rung::Head, Limb::None, LimbSide::Neither, "a clip from the front"},
    {Measure::GazeHeading, "gaze.heading", "Gaze",
     "Heading of the face against the direction of the posture; to the right is positive.", "seen from above",
     Degree, Rung::Head, Limb::None, LimbSide::Neither, kTwoViews},
    {Measure::GazeDrop, "gaze.drop", "Gaze drop", "How far the face is turned down; down is positive.",
     "against the horizontal", Degree, Rung::Head, Limb::None, LimbSide::Neither, kSideView},
}};

} // namespace

const MeasureInfo& measureInfo(Measure m)
{
    return kInfo[static_cast<std::size_t>(m)];
}

std::span<const MeasureInfo> allMeasures()
{
    return kInfo;
}

std::optional<Measure> measureFromKey(std::string_view key)
{
    const auto found =
        std::find_if(kInfo.begin(), kInfo.end(), [&](const MeasureInfo& i) { return i.key == key; });
    if (found == kInfo.end()) return {};
    return found->measure;
}

std::string measureId(Measure m, Side lead)
{
    const MeasureInfo& info = measureInfo(m);
    std::string key(info.key);
    const bool ofPosture = info.limb == Limb::None || info.limb == Limb::Foot || info.limb == Limb::Knee;
    const std::string_view word = info.limbSide == LimbSide::Lead ? ".lead." : ".rear.";
    const std::size_t at = key.find(word);
    if (ofPosture || at == std::string::npos) return key;
    const bool left = (lead == Side::Left) == (info.limbSide == LimbSide::Lead);
    return key.substr(0, at) + (left ? ".L." : ".R.") + key.substr(at + word.size());
}

} // namespace jl
