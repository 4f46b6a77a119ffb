#include "moment/two_view_measurer.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include "camera/picture_edge.h"
#include "measure/measure_value.h"
#include "moment/arm_sight.h"
#include "moment/raised_leg.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector3d;

namespace
{

/// Options of reading two views at once.
/// Chosen on: the quick set in pairs.
struct TwoViewOptions {
    /// Standard deviation of a joint read by two cameras, each way, at 1.70 m.
    /// x0.5: u -5 %, 2u -1.1; x2: err +0.7 %, u +9 %, 2u +0.8.
    Metres pointSpread = 0.010;
    /// Of the waist; beyond it left and right of one pair were swapped. x0.5 and x2: none.
    Degrees mostTwist = 90;
    /// Ray distance beyond which one network was wrong. x0.5 and x2: none.
    Metres wrongDistance = 0.11;
};
constexpr TwoViewOptions kOptions;

/// Points a measure stands on, as far as it matters for believing it: legs, arms or neither.
bool onLegs(const MeasureInfo& info)
{
    return info.rung == Rung::Feet || info.rung == Rung::Weight || info.rung == Rung::Knees ||
           info.measure == Measure::HipLeadFlexion || info.measure == Measure::HipRearFlexion ||
           info.measure == Measure::TrunkRearLegLine || info.measure == Measure::ArmOverLeg;
}

/// Whose palm a measure is about.
std::optional<Side> palmOf(const MeasureInfo& info, Side lead)
{
    if (info.limb != Limb::Palm) return {};
    return info.limbSide == LimbSide::Lead ? lead : other(lead);
}

/// Whether wrist and knuckles lie as those of a hand do, which is some 8 cm long to the knuckles and 6 cm
/// wide: of points that a network confuses a palm is no palm.
bool shapedAsHand(const BodyPoints& points, Side side, double size)
{
    const auto at = [&](Landmark l) -> const Vector3d& { return points[index(sided(l, side))]; };
    const Vector3d knuckles = (at(Landmark::LeftIndex) - at(Landmark::LeftPinky)) / size,
                   fingers =
                       (0.5 * (at(Landmark::LeftIndex) + at(Landmark::LeftPinky)) - at(Landmark::LeftWrist)) /
                       size;
    const auto about = [](double length, double usual) {
        return length > 0.6 * usual && length < 1.5 * usual;
    };
    return about(knuckles.norm(), 0.058) && about(fingers.norm(), 0.083) &&
           std::abs(knuckles.normalized().dot(fingers.normalized())) < 0.5;
}

using Values = std::array<double, kMeasureCount>;

} // namespace

TwoViewMeasurer::TwoViewMeasurer(const TwoCameras& cameras, const PersonProfile& profile,
                                 const LandmarkOffsets& offsets, const AccuracyTable& accuracy)
    : m_cameras(cameras), m_profile(profile), m_offsets(offsets), m_accuracy(accuracy)
{
}

std::string_view TwoViewMeasurer::viewsOf(const MomentPrior& moment) const
{
    const auto view = [&](const Camera& camera) {
        return viewOf(azimuthFrom(camera, moment.points), moment.heading, moment.lead);
    };
    return pairName(view(m_cameras.first), view(m_cameras.second));
}

BodyPoints TwoViewMeasurer::withHipLine(const BodyPoints& points) const
{
    const Vector3d hips = points[index(Landmark::RightHip)] - points[index(Landmark::LeftHip)];
    const Vector3d a = forwardOf(azimuthFrom(m_cameras.first, points)),
                   b = forwardOf(azimuthFrom(m_cameras.second, points));
    return m_offsets.hipLine().turnedBack(points, m_profile.heightOrUsual(),
                                          std::abs(hips.dot(a)) > std::abs(hips.dot(b)) ? a : b);
}

double TwoViewMeasurer::measureOf(Measure measure, const BodyPoints& points, const MomentPrior& moment) const
{
    const bool ofHipLine = measure == Measure::PelvisSquare || measure == Measure::WaistTwist;
    return measureValue(measure, ofHipLine ? withHipLine(points) : points, moment.lengths, moment.lead,
                        moment.heading);
}

TwoViewMeasurer::Placed TwoViewMeasurer::place(const BodyFrame& first, const BodyFrame& second) const
{
    Placed placed;
    NetworkPoints met;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const RayIntersection m =
            intersectRays(m_cameras.first, first.point[i], m_cameras.second, second.point[i]);
        met[i] = m.point;
        placed.rayDistance[i] = m.distance;
    }
    placed.points = m_offsets.toAnatomy(met, m_profile.heightOrUsual());
    return placed;
}

double TwoViewMeasurer::Placed::worstOfLegs() const
{
    return *std::max_element(rayDistance.begin() + index(Landmark::LeftKnee),
                             rayDistance.begin() + index(Landmark::LeftHeel));
}

bool TwoViewMeasurer::sees(const MeasureInfo& info, const BodyFrame& first, const BodyFrame& second,
                           const Placed& placed, Side lead) const
{
    if (!first.seen || !second.seen) return false;
    if (const auto hand = palmOf(info, lead))
        return handSeen(first, *hand) && handSeen(second, *hand) &&
               shapedAsHand(placed.points, *hand, m_profile.heightOrUsual() / 1.70);
    const bool ofHipLine = info.measure == Measure::PelvisSquare || info.measure == Measure::WaistTwist;
    if (ofHipLine) return std::abs(JointGeometry{placed.points}.waistTwist()) < kOptions.mostTwist;
    if (!onLegs(info)) return true;
    return placed.worstOfLegs() < kOptions.wrongDistance * m_profile.heightOrUsual() / 1.70;
}

std::optional<double> TwoViewMeasurer::value(Measure measure, const BodyFrame& first, const BodyFrame& second,
                                             const MomentPrior& moment) const
{
    const Placed placed = place(first, second);
    if (!sees(measureInfo(measure), first, second, placed, moment.lead)) return {};
    const double value = withoutBias(m_accuracy.entry(viewsOf(moment), measure), measure,
                                     measureOf(measure, placed.points, moment));
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
}

std::vector<Value> TwoViewMeasurer::measure(const BodyFrame& first, const BodyFrame& second,
                                            const MomentPrior& moment, const MomentUncertainty& doubt) const
{
    const Placed placed = place(first, second);
    const auto measured = [&](const BodyPoints& points) {
        Values values{};
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            values[m] = measureOf(static_cast<Measure>(m), points, moment);
        return values;
    };
    const Values value = measured(placed.points);
    const double size = m_profile.heightOrUsual() / 1.70;
    Values variance{}, guesses{}; // of what networks guess outside of the picture the table knows nothing
    const auto addTo = [&](Values& sum, const BodyPoints& points) {
        const Values moved = measured(points);
        for (std::size_t m = 0; m < kMeasureCount; ++m) {
            double d = moved[m] - value[m];
            if (allMeasures()[m].unit == Unit::Degree) d = wrapDeg(d);
            sum[m] += d * d;
        }
    };
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const bool guessed = !inPicture(first, i, m_cameras.first) || !inPicture(second, i, m_cameras.second);
        const double own =
            kOptions.pointSpread * size * raisedLegFactor(placed.points, static_cast<Landmark>(i));
        const double spread = std::hypot(own, 0.5 * placed.rayDistance[i], guessed ? kGuessedSpread : 0);
        for (int axis = 0; axis < 3; ++axis) {
            BodyPoints points = placed.points;
            points[i][axis] += spread;
            addTo(guessed ? guesses : variance, points);
        }
    }
    BodyPoints turned, larger;
    const Eigen::AngleAxisd turn(-m_cameras.azimuthSpread * kRadPerDeg, Vector3d::UnitZ());
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        turned[i] = turn * placed.points[i];
        larger[i] = (1 + m_cameras.scaleSpread) * placed.points[i];
    }
    addTo(variance, turned);
    addTo(variance, larger);

    std::vector<Value> out;
    const std::string_view views = viewsOf(moment);
    for (const MeasureInfo& info : allMeasures()) {
        const auto m = static_cast<std::size_t>(info.measure);
        const RawValue raw{info.measure, View::Both,  sees(info, first, second, placed, moment.lead),
                           value[m],     variance[m], std::sqrt(guesses[m])};
        out.push_back(ratedValue(m_accuracy.entry(views, info.measure), raw, doubt));
    }
    return out;
}

} // namespace jl
