#include "moment/one_view_measurer.h"
#include "base/angles.h"
#include "camera/picture_edge.h"
#include "measure/body_shift.h"
#include "measure/measure_value.h"
#include "moment/arm_sight.h"
#include "moment/raised_leg.h"
#include "moment/unseen_lean.h"
#include "moment/view_support.h"
#include <Eigen/Geometry>
#include <cmath>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace
{

/// Standard deviations of what goes into a reading, m in the picture plane and out of the movement plane.
double pictureSpread(Landmark l)
{
    const bool arm = index(l) >= index(Landmark::LeftElbow) && index(l) <= index(Landmark::RightThumb);
    return arm ? 0.015 : 0.008;
}

double depthSpread(Landmark l)
{
    const bool arm = index(l) >= index(Landmark::LeftElbow) && index(l) <= index(Landmark::RightThumb);
    return arm ? 0.06 : 0.03;
}

constexpr double kUnseenTurn = 12;   ///< deg, by which trunks are turned otherwise than the form's, 1 sd
constexpr double kUnseenReach = 0.1; ///< m, by which hands reach out of the picture otherwise, 1 sd
constexpr double kApart = 0.33;      ///< of it, by which they reach out of the picture apart from each other

/// Left and right leg exchanged: what the networks sometimes do when one leg passes in front of the other.
std::array<Vector2d, kLandmarkCount> legsExchanged(std::array<Vector2d, kLandmarkCount> picture)
{
    for (Landmark l : {Landmark::LeftKnee, Landmark::LeftAnkle, Landmark::LeftHeel, Landmark::LeftToe})
        std::swap(picture[index(l)], picture[index(sided(l, Side::Right))]);
    return picture;
}

/// Mean distance of knees and feet from where the model has them, m. A student's own stance lies within some
/// 15 cm; a leg that the network invented, or took for the other one, lies far off.
double legMismatch(const BodyPoints& points, const BodyPoints& model)
{
    double sum = 0;
    int n = 0;
    for (std::size_t i = index(Landmark::LeftKnee); i < kLandmarkCount; ++i, ++n)
        sum += (points[i] - model[i]).norm();
    return sum / n;
}

constexpr double kInventedLegs = 0.21; ///< m, above this the legs are not believed
constexpr double kStrangeBone = 0.28;  ///< a bone this much (log) longer or shorter was misread
constexpr double kClearlyBetter = 0.6; ///< exchanged legs must fit this much better to be taken

bool readsLegs(Measure m)
{
    const Rung rung = measureInfo(m).rung;
    const bool ofHips = m == Measure::PelvisLevel || m == Measure::PelvisSquare || m == Measure::WaistTwist;
    const bool ofTrunk = rung == Rung::Trunk && m != Measure::TrunkRearLegLine && m != Measure::ColumnOffset;
    return !ofHips && !ofTrunk && rung != Rung::Arms && rung != Rung::Head;
}

/// Whether the arms a measure stands on are seen.
bool armsSeen(Measure m, const BodyFrame& frame, Side lead)
{
    const MeasureInfo& info = measureInfo(m);
    if (info.limb != Limb::Arm && info.limb != Limb::Hand && info.limb != Limb::Arms) return true;
    return (info.limbSide == LimbSide::Rear || armSeen(frame, lead)) &&
           (info.limbSide == LimbSide::Lead || armSeen(frame, other(lead)));
}

/// How far the other end of the foot whose lift is measured seems to be off the floor on which it stands, m,
/// beyond what points err: then the foot is nearer or farther than the plane, and its lift is as doubtful.
double footOffPlane(Measure m, const BodyPoints& placed, const MomentPrior& prior)
{
    constexpr double onFloor = 0.01, usual = 0.02; // m
    const auto above = [&](Landmark l, double flat) {
        if (prior.points[index(l)].z() > flat + onFloor) return 0.0;
        return std::max(0.0, std::abs(placed[index(l)].z() - flat) - usual);
    };
    if (m == Measure::ToeLeadLift) return above(sided(Landmark::LeftHeel, prior.lead), prior.lengths.heel);
    if (m == Measure::HeelRearLift)
        return above(sided(Landmark::LeftToe, other(prior.lead)), prior.lengths.toe);
    return 0;
}

/// Whether a measure can be believed when the legs as a pair, or one of them, cannot.
bool believed(Measure m, bool legs, bool lead, bool rear)
{
    if (!readsLegs(m)) return true;
    const LimbSide side = measureInfo(m).limbSide;
    return legs && (lead || side == LimbSide::Rear) && (rear || side == LimbSide::Lead);
}

} // namespace

OneViewMeasurer::OneViewMeasurer(const CalibratedCamera& camera, const PersonProfile& profile,
                                 const LandmarkOffsets& offsets, const AccuracyTable& accuracy)
    : m_camera(camera), m_profile(profile), m_offsets(offsets), m_accuracy(accuracy)
{
}

BodyPoints OneViewMeasurer::placeWith(const Camera& camera,
                                      const std::array<Vector2d, kLandmarkCount>& picture,
                                      const NetworkPoints& depth, double headingDeg, bool fromSide) const
{
    const Vector3d normal = fromSide ? rightOf(headingDeg) : forwardOf(headingDeg);
    NetworkPoints points;
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        points[i] = camera.onPlane(picture[i], normal, normal.dot(depth[i]));
    return m_offsets.toAnatomy(points, m_profile.heightOrUsual());
}

NetworkPoints OneViewMeasurer::expectedPoints(const SoundPicture& sound, const MomentPrior& prior,
                                              bool fromSide) const
{
    const Vector3d normal = fromSide ? rightOf(prior.heading) : forwardOf(prior.heading);
    const double azimuth = m_camera.azimuthFrom(prior.points);
    const double lean = likelyUnseenLean(sound.placed, prior.points, prior.heading, fromSide, azimuth);
    const Vector3d out = normal.dot(unseenShift(sound.placed, prior)) * normal;
    return {trunkOutOfPicture(bodyMoved(sound.expected.at, out), normal, lean, 0)};
}

Vector3d OneViewMeasurer::unseenShift(const BodyPoints& placed, const MomentPrior& prior) const
{
    const Vector3d sight = forwardOf(m_camera.azimuthFrom(prior.points));
    return bodyShift(placed, prior.points, prior.lead, sight) * sight;
}

BodyPoints OneViewMeasurer::place(const BodyFrame& frame, const MomentPrior& prior) const
{
    // Depths stay as expected here: the body's own shift out of the plane is too unsteady for courses.
    return soundPicture(frame, prior).placed;
}

OneViewMeasurer::SoundPicture OneViewMeasurer::soundPicture(const BodyFrame& frame,
                                                            const MomentPrior& prior) const
{
    const bool fromSide = readsFromSide(prior);
    const double size = m_profile.heightOrUsual() / 1.70;
    SoundPicture sound;
    sound.expected = m_offsets.toNetwork(prior.points, m_profile.heightOrUsual());
    const auto placed = [&](const std::array<Vector2d, kLandmarkCount>& picture) {
        return placeWith(m_camera.camera, picture, sound.expected, prior.heading, fromSide);
    };
    sound.points = frame.point;
    sound.placed = placed(sound.points);
    const double mismatch = legMismatch(sound.placed, prior.points) / size;
    sound.legsBelieved = mismatch <= kInventedLegs;
    if (!sound.legsBelieved) {
        const auto exchanged = legsExchanged(frame.point);
        const BodyPoints otherwise = placed(exchanged);
        const double other = legMismatch(otherwise, prior.points) / size;
        if (other < kClearlyBetter * mismatch && other <= kInventedLegs) {
            sound.points = exchanged;
            sound.placed = otherwise;
            sound.legsBelieved = true;
        }
    }
    sound.leadBelieved = bonesBelieved(sound.placed, prior, prior.lead);
    sound.rearBelieved = bonesBelieved(sound.placed, prior, other(prior.lead));
    return sound;
}

bool OneViewMeasurer::bonesBelieved(const BodyPoints& points, const MomentPrior& prior, Side side) const
{
    using enum Landmark;
    if (!supported(side == prior.lead ? Measure::KneeLeadFlexion : Measure::KneeRearFlexion,
                   m_camera.azimuthFrom(prior.points), prior))
        return true; // out of the picture its bones cannot be told
    const auto length = [&](const BodyPoints& p, Landmark a, Landmark b) {
        return (p[index(sided(a, side))] - p[index(sided(b, side))]).norm();
    };
    for (const auto& [a, b] : {std::pair(LeftHip, LeftKnee), {LeftKnee, LeftAnkle}})
        if (std::abs(std::log(length(points, a, b) / length(prior.points, a, b))) > kStrangeBone)
            return false;
    return true;
}

bool OneViewMeasurer::readsFromSide(const MomentPrior& prior) const
{
    return prior.fromSide.value_or(seenFromSide(m_camera.azimuthFrom(prior.points), prior.heading));
}

bool OneViewMeasurer::sees(Measure measure, const BodyFrame& frame, const MomentPrior& prior,
                           const SoundPicture& sound) const
{
    return frame.seen && supported(measure, m_camera.azimuthFrom(prior.points), prior) &&
           armsSeen(measure, frame, prior.lead) &&
           believed(measure, sound.legsBelieved, sound.leadBelieved, sound.rearBelieved);
}

std::optional<double> OneViewMeasurer::value(Measure measure, const BodyFrame& frame,
                                             const MomentPrior& prior) const
{
    if (!frame.seen) return {};
    const SoundPicture sound = soundPicture(frame, prior);
    if (!sees(measure, frame, prior, sound)) return {};
    const double azimuth = m_camera.azimuthFrom(prior.points);
    const bool fromSide = readsFromSide(prior);
    const BodyPoints points = placeWith(m_camera.camera, sound.points, expectedPoints(sound, prior, fromSide),
                                        prior.heading, fromSide);
    const double value =
        withoutBias(m_accuracy.entry(viewName(viewOf(azimuth, prior.heading, prior.lead)), measure), measure,
                    measureValue(measure, points, prior.lengths, prior.lead, prior.heading));
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
}

std::vector<Value> OneViewMeasurer::measure(const BodyFrame& frame, const MomentPrior& prior,
                                            const MomentUncertainty& doubt) const
{
    const View view = viewOf(m_camera.azimuthFrom(prior.points), prior.heading, prior.lead);
    const bool fromSide = readsFromSide(prior);
    const SoundPicture sound = soundPicture(frame, prior);
    const NetworkPoints expected = expectedPoints(sound, prior, fromSide);
    const double size = m_profile.heightOrUsual() / 1.70;
    const auto measured = [&](const BodyPoints& p) {
        std::array<double, kMeasureCount> values{};
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            values[m] = measureValue(static_cast<Measure>(m), p, prior.lengths, prior.lead, prior.heading);
        return values;
    };
    const auto at = [&](const Camera& c, const std::array<Vector2d, kLandmarkCount>& picture,
                        const NetworkPoints& depth) {
        return measured(placeWith(c, picture, depth, prior.heading, fromSide));
    };
    const BodyPoints placed = placeWith(m_camera.camera, sound.points, expected, prior.heading, fromSide);
    const auto value = measured(placed);

    // Every source of error is moved by its standard deviation in turn; the changes add in quadrature. What
    // the network guesses outside of the picture is apart: the table of accuracy knows nothing of it.
    std::array<double, kMeasureCount> variance{}, guessed{};
    const auto addTo = [&](std::array<double, kMeasureCount>& sum,
                           const std::array<double, kMeasureCount>& moved) {
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            sum[m] += (moved[m] - value[m]) * (moved[m] - value[m]);
    };
    const auto add = [&](const std::array<double, kMeasureCount>& moved) { addTo(variance, moved); };
    const Camera& camera = m_camera.camera;
    const double distance = (prior.points[index(Landmark::LeftHip)] - camera.position).norm();
    const double pixelsPerMetre = camera.focal / distance;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const auto l = static_cast<Landmark>(i);
        auto picture = sound.points;
        const double seen = pictureSpread(l) * size * raisedLegFactor(placed, l);
        const bool isGuess = !inPicture(frame, i, camera) && frame.placed[i] <= 0;
        const double spread = isGuess ? kGuessedSpread : seen;
        for (int axis = 0; axis < 2; ++axis) {
            picture[i] = sound.points[i];
            picture[i][axis] += frame.placed[i] > 0 ? frame.placed[i] : spread * pixelsPerMetre;
            addTo(isGuess ? guessed : variance, at(camera, picture, expected));
        }
        NetworkPoints depth = expected;
        depth[i] += (fromSide ? rightOf(prior.heading) : forwardOf(prior.heading)) * depthSpread(l) * size;
        add(at(camera, sound.points, depth));
    }
    // A trunk may lean or turn out of the picture, which nobody sees; hands are measured against it.
    const auto isOfHand = [](std::size_t m) {
        return measureInfo(static_cast<Measure>(m)).limb == Limb::Hand;
    };
    const Vector3d away = fromSide ? rightOf(prior.heading) : forwardOf(prior.heading);
    const auto withTrunk = [&](double lean, double turn) {
        return at(camera, sound.points, {trunkOutOfPicture(expected.at, away, lean, turn)});
    };
    const auto addToHands = [&](const std::array<double, kMeasureCount>& moved) {
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            if (isOfHand(m)) variance[m] += (moved[m] - value[m]) * (moved[m] - value[m]);
    };
    addToHands(withTrunk(unseenLeanSpread(prior.heading, fromSide, m_camera.azimuthFrom(prior.points)), 0));
    addToHands(withTrunk(0, kUnseenTurn));
    // From the front it shows when one does so by more than people usually do. How far a hand reaches out of
    // the picture never does; where the trunk leans or is turned that way, its place along the trunk needs
    // it.
    const UnseenTrunk odd = fromSide ? UnseenTrunk{} : foreshortened(placed, prior.points, away);
    const auto leaning = withTrunk(odd.lean, 0), turning = withTrunk(0, odd.turn);
    NetworkPoints reach = expected;
    reach[index(Landmark::LeftWrist)] += away * kUnseenReach * size;
    reach[index(Landmark::RightWrist)] -= away * kUnseenReach * size;
    const auto reaching = at(camera, sound.points, reach);
    const auto besides = [&](Measure measure) {
        const auto m = static_cast<std::size_t>(measure);
        // Hands that stand apart from each other keep together where they reach otherwise.
        if (measure == Measure::HandsApart) return kApart * std::abs(reaching[m] - value[m]);
        return isOfHand(m) ? std::hypot(leaning[m] - value[m], turning[m] - value[m], reaching[m] - value[m])
                           : footOffPlane(measure, placed, prior);
    };
    const auto turned = [&](double azimuth, double elevation, double roll, double scale) {
        // The camera goes round the performer, who stays where the picture shows them.
        const Vector3d pivot =
            0.5 * (prior.points[index(Landmark::LeftHip)] + prior.points[index(Landmark::RightHip)]);
        const Eigen::AngleAxisd aroundUp(-azimuth * kRadPerDeg, Vector3d::UnitZ());
        const Eigen::AngleAxisd tilt(elevation * kRadPerDeg, camera.rotation.row(0).transpose());
        const Eigen::AngleAxisd spin(roll * kRadPerDeg, camera.rotation.row(2).transpose());
        const Eigen::Matrix3d turn = (aroundUp * tilt * spin).toRotationMatrix();
        Camera c = camera;
        c.position = pivot + turn * (camera.position - pivot) * scale;
        c.rotation = camera.rotation * turn.transpose();
        return at(c, sound.points, expected);
    };
    add(turned(m_camera.azimuthSpread, 0, 0, 1));
    add(turned(0, m_camera.elevationSpread, 0, 1));
    add(turned(0, 0, m_camera.rollSpread, 1));
    add(turned(0, 0, 0, 1 + m_camera.scaleSpread));

    std::vector<Value> out;
    for (std::size_t m = 0; m < kMeasureCount; ++m) {
        const auto measure = static_cast<Measure>(m);
        out.push_back(ratedValue(m_accuracy.entry(viewName(view), measure), measure, view,
                                 sees(measure, frame, prior, sound), value[m], variance[m], doubt,
                                 std::hypot(besides(measure), std::sqrt(guessed[m]))));
        out.back().plane = fromSide ? Plane::Along : Plane::Across;
    }
    return out;
}

} // namespace jl
