#include "measure/measure_id.h"
#include <algorithm>
#include <array>

namespace jl
{
namespace
{

constexpr std::string_view kSideView = "a clip from the side";
constexpr std::string_view kFrontView = "a clip from the front, within 10 degrees";

using enum Unit;
constexpr std::array<MeasureInfo, kMeasureCount> kInfo{{
    {Measure::KneeLeadFlexion, "knee.lead.flexion", "Front knee bend",
     "180 degrees minus the angle hip, knee, ankle of the front leg; a straight leg is 0.",
     "in the plane of travel", Degrees, Rung::Knees, kSideView},
    {Measure::KneeRearFlexion, "knee.rear.flexion", "Rear knee bend",
     "180 degrees minus the angle hip, knee, ankle of the rear leg; a straight leg is 0.",
     "in the plane of the leg", Degrees, Rung::Knees, "two clips filmed at once"},
    {Measure::HipLeadFlexion, "hip.lead.flexion", "Front hip fold",
     "Angle between the trunk axis and the front thigh; standing straight is 0.", "in the plane of travel",
     Degrees, Rung::Hips, kSideView},
    {Measure::HipRearFlexion, "hip.rear.flexion", "Rear hip fold",
     "Angle between the trunk axis and the rear thigh; standing straight is 0.", "in the plane of travel",
     Degrees, Rung::Hips, "two clips filmed at once"},
    {Measure::ElbowLeadFlexion, "elbow.lead.flexion", "Front elbow bend",
     "180 degrees minus the angle shoulder, elbow, wrist of the arm on the front leg's side.",
     "in the plane of the arm", Degrees, Rung::Arms, "a view square to the arm"},
    {Measure::ElbowRearFlexion, "elbow.rear.flexion", "Rear elbow bend",
     "180 degrees minus the angle shoulder, elbow, wrist of the arm on the rear leg's side.",
     "in the plane of the arm", Degrees, Rung::Arms, "a view square to the arm"},
    {Measure::KneeLeadPastToe, "knee.lead.past_toe", "Front knee past toe",
     "How far a plumb line from the front knee falls beyond the tip of the toe, along the foot; behind the "
     "toe is negative.",
     "along the front foot", Metres, Rung::Knees, kSideView},
    {Measure::KneeLeadTrack, "knee.lead.track", "Front knee tracking",
     "How far a plumb line from the front knee falls beside the foot's axis; outward is positive, caved in "
     "is negative.",
     "across the front foot", Metres, Rung::Knees, kFrontView},
    {Measure::StanceLength, "stance.length", "Stance length",
     "Distance from heel to heel along the direction of the posture.", "along the posture's direction",
     Metres, Rung::Feet, kSideView},
    {Measure::StanceWidth, "stance.width", "Stance width",
     "Distance from heel to heel across the direction of the posture; 0 is one line, negative is crossed.",
     "across the posture's direction", Metres, Rung::Feet, "a clip from the front"},
    {Measure::TrunkLeanForward, "trunk.lean.forward", "Lean forward",
     "Line from mid-hip to mid-shoulder against the vertical, in the posture's direction; back is negative.",
     "along the posture's direction", Degrees, Rung::Trunk, kSideView},
    {Measure::TrunkLeanSide, "trunk.lean.side", "Lean sideways",
     "Line from mid-hip to mid-shoulder against the vertical, across the posture's direction; to the right "
     "is positive.",
     "across the posture's direction", Degrees, Rung::Trunk, "a clip from the front or behind"},
    {Measure::WeightLead, "weight.lead", "Weight on the front leg",
     "Estimated share carried by the front leg: where the centre of pressure lies between the two foot "
     "centres.",
     "between the foot centres", Percent, Rung::Weight, kSideView},
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
        std::find_if(kInfo.begin(), kInfo.end(), [key](const MeasureInfo& i) { return i.key == key; });
    return found == kInfo.end() ? std::nullopt : std::optional(found->measure);
}

std::string measureId(Measure m, Side lead)
{
    const std::string key(measureInfo(m).key);
    if (!key.starts_with("hip.") && !key.starts_with("elbow.")) return key;
    const std::size_t dot = key.find('.');
    const bool ofLead = key.compare(dot + 1, 4, "lead") == 0;
    const bool left = (lead == Side::Left) == ofLead;
    return key.substr(0, dot + 1) + (left ? "L" : "R") + key.substr(dot + 5);
}

} // namespace jl
