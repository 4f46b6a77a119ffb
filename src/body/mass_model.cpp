#include "body/mass_model.h"

namespace jl
{
namespace
{

/// Mass share of the body and centre along the segment (from the first end), de Leva 1996, table 4.
struct Segment {
    double massFemale, massMale, centreFemale, centreMale;
};
constexpr Segment kHead{0.0668, 0.0694, 0.5, 0.5};
// Trunk: suprasternale to mid-hip in the table; taken from mid-shoulder to mid-hip here.
constexpr Segment kTrunk{0.4257, 0.4346, 0.4964, 0.5138};
constexpr Segment kUpperArm{0.0255, 0.0271, 0.5754, 0.5772};
constexpr Segment kForearm{0.0138, 0.0162, 0.4559, 0.4574};
constexpr Segment kHand{0.0056, 0.0061, 0.5, 0.5};
constexpr Segment kThigh{0.1478, 0.1416, 0.3612, 0.4095};
constexpr Segment kShank{0.0481, 0.0433, 0.4416, 0.4459};
constexpr Segment kFoot{0.0129, 0.0137, 0.4014, 0.4415};

} // namespace

std::array<double, kLandmarkCount> centreOfMassWeights(MassTable table)
{
    std::array<double, kLandmarkCount> weight{};
    const double male = table == MassTable::Male ? 1 : table == MassTable::Female ? 0 : 0.5;
    const auto blend = [&](double f, double m) { return f + (m - f) * male; };
    const auto add = [&](const Segment& s, std::initializer_list<Landmark> from,
                         std::initializer_list<Landmark> to) {
        const double mass = blend(s.massFemale, s.massMale), c = blend(s.centreFemale, s.centreMale);
        for (Landmark l : from)
            weight[index(l)] += mass * (1 - c) / static_cast<double>(from.size());
        for (Landmark l : to)
            weight[index(l)] += mass * c / static_cast<double>(to.size());
    };
    using enum Landmark;
    add(kHead, {LeftEar, RightEar}, {LeftEar, RightEar});
    add(kTrunk, {LeftShoulder, RightShoulder}, {LeftHip, RightHip});
    for (Side side : {Side::Left, Side::Right}) {
        const auto l = [side](Landmark left) { return sided(left, side); };
        add(kUpperArm, {l(LeftShoulder)}, {l(LeftElbow)});
        add(kForearm, {l(LeftElbow)}, {l(LeftWrist)});
        add(kHand, {l(LeftWrist)}, {l(LeftIndex), l(LeftPinky)});
        add(kThigh, {l(LeftHip)}, {l(LeftKnee)});
        add(kShank, {l(LeftKnee)}, {l(LeftAnkle)});
        add(kFoot, {l(LeftHeel)}, {l(LeftToe)});
    }
    double sum = 0;
    for (double w : weight)
        sum += w;
    for (double& w : weight)
        w /= sum;
    return weight;
}

} // namespace jl
