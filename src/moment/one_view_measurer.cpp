#include "moment/one_view_measurer.h"
#include "base/angles.h"
#include "base/units.h"
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

/// Options of reading one view.
/// Chosen on: the quick set (legs); the 460 clips of seed 20260 (what a picture does not show).
struct OneViewOptions {
    /// Standard deviation of a trunk's turn against the form's. x0.5 and x2: none.
    Degrees unseenTurn = 12;
    /// Standard deviation of a hand's reach out of the picture plane against the form's.
    /// x0.5: u -0.6 %; x2: u +1 %.
    Metres unseenReach = 0.1;
    /// Of that reach: in which both hands differ from each other. x0.5 and x2: none.
    Share reachApart = 0.33;
    /// Misfit above which legs are not believed. x0.5 and x2: none.
    Metres inventedLegs = 0.21;
    /// Log ratio of a bone's length to the usual from which it was misread. x0.5 and x2: none.
    Ratio strangeBone = 0.28;
    /// Factor of the misfit below which exchanged legs are taken. x0.5 and x2: none.
    Ratio clearlyBetter = 0.6;
    /// Height of the model's foot up to which it stands. x0.5 and x2: none.
    Metres onFloor = 0.01;
    /// Error of the height of a standing foot that points explain. x0.5 and x2: none.
    Metres usualHeight = 0.02;
};
constexpr OneViewOptions kOptions;

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
    const auto above = [&](Landmark l, double flat) {
        if (prior.points[index(l)].z() > flat + kOptions.onFloor) return 0.0;
        return std::max(0.0, std::abs(placed[index(l)].z() - flat) - kOptions.usualHeight);
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
    sound.legsBelieved = mismatch <= kOptions.inventedLegs;
    if (!sound.legsBelieved) {
        const auto exchanged = legsExchanged(frame.point);
        const BodyPoints otherwise = placed(exchanged);
        const double other = legMismatch(otherwise, prior.points) / size;
        if (other < kOptions.clearlyBetter * mismatch && other <= kOptions.inventedLegs) {
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
        return true; // out of the picture plane its bones are not observable
    const auto length = [&](const BodyPoints& p, Landmark a, Landmark b) {
        return (p[index(sided(a, side))] - p[index(sided(b, side))]).norm();
    };
    for (const auto& [a, b] : {std::pair(LeftHip, LeftKnee), {LeftKnee, LeftAnkle}})
        if (std::abs(std::log(length(points, a, b) / length(prior.points, a, b))) > kOptions.strangeBone)
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

/// Propagates the sources of error of one moment to all its measures: each source is moved by its standard
/// deviation in turn, and the squared changes add up.
class OneViewMeasurer::Errors
{
public:
    Errors(const OneViewMeasurer& measurer, const MomentPrior& prior, const SoundPicture& sound,
           bool fromSide)
        : m_measurer(measurer), m_prior(prior), m_sound(sound), m_fromSide(fromSide),
          m_away(fromSide ? rightOf(prior.heading) : forwardOf(prior.heading)),
          m_size(measurer.m_profile.heightOrUsual() / 1.70),
          m_expected(measurer.expectedPoints(sound, prior, fromSide)),
          m_placed(measurer.placeWith(measurer.m_camera.camera, sound.points, m_expected, prior.heading,
                                      fromSide)),
          m_value(measured(m_placed))
    {
    }

    /// Of each point, across the picture and out of the plane. Points that the network guesses outside of the
    /// picture are kept apart: the accuracy table does not cover them.
    void addPoints(const BodyFrame& frame)
    {
        const Camera& camera = m_measurer.m_camera.camera;
        const double distance = (m_prior.points[index(Landmark::LeftHip)] - camera.position).norm();
        const double pixelsPerMetre = camera.focal / distance;
        for (std::size_t i = 0; i < kLandmarkCount; ++i) {
            const auto l = static_cast<Landmark>(i);
            auto picture = m_sound.points;
            const double seen = pictureSpread(l) * m_size * raisedLegFactor(m_placed, l);
            const bool isGuess = !inPicture(frame, i, camera) && frame.placed[i] <= 0;
            const double spread = isGuess ? kGuessedSpread : seen;
            for (int axis = 0; axis < 2; ++axis) {
                picture[i] = m_sound.points[i];
                picture[i][axis] += frame.placed[i] > 0 ? frame.placed[i] : spread * pixelsPerMetre;
                add(isGuess ? m_guessed : m_variance, at(camera, picture, m_expected));
            }
            NetworkPoints depth = m_expected;
            depth[i] += m_away * depthSpread(l) * m_size;
            add(m_variance, at(camera, m_sound.points, depth));
        }
    }

    /// Of hands, which are measured against a trunk that may lean or turn out of the picture unseen.
    void addUnseenTrunk()
    {
        const CalibratedCamera& camera = m_measurer.m_camera;
        const double lean = unseenLeanSpread(m_prior.heading, m_fromSide, camera.azimuthFrom(m_prior.points));
        for (const AllValues& moved : {withTrunk(lean, 0), withTrunk(0, kOptions.unseenTurn)})
            for (std::size_t m = 0; m < kMeasureCount; ++m)
                if (isOfHand(m)) m_variance[m] += squared(moved[m] - m_value[m]);
    }

    /// Of the camera's direction, tilt, roll and scale.
    void addCamera()
    {
        const CalibratedCamera& camera = m_measurer.m_camera;
        add(m_variance, turned(camera.azimuthSpread, 0, 0, 1));
        add(m_variance, turned(0, camera.elevationSpread, 0, 1));
        add(m_variance, turned(0, 0, camera.rollSpread, 1));
        add(m_variance, turned(0, 0, 0, 1 + camera.scaleSpread));
    }

    /// From the front a trunk shows when it leans or turns out of the picture by more than is usual. How far
    /// a hand reaches out of the picture never shows; where the trunk leans or is turned, the hand's place
    /// along the trunk depends on it.
    void findUnseenReach()
    {
        const UnseenTrunk odd = m_fromSide ? UnseenTrunk{} : foreshortened(m_placed, m_prior.points, m_away);
        m_leaning = withTrunk(odd.lean, 0);
        m_turning = withTrunk(0, odd.turn);
        NetworkPoints reach = m_expected;
        reach[index(Landmark::LeftWrist)] += m_away * kOptions.unseenReach * m_size;
        reach[index(Landmark::RightWrist)] -= m_away * kOptions.unseenReach * m_size;
        m_reaching = at(m_measurer.m_camera.camera, m_sound.points, reach);
    }

    RawValue rawValue(Measure measure) const
    {
        const auto m = static_cast<std::size_t>(measure);
        RawValue raw;
        raw.measure = measure;
        raw.value = m_value[m];
        raw.variance = m_variance[m];
        raw.besides = std::hypot(besides(measure), std::sqrt(m_guessed[m]));
        return raw;
    }

private:
    using AllValues = std::array<double, kMeasureCount>;
    using Picture = std::array<Vector2d, kLandmarkCount>;

    static double squared(double x) { return x * x; }
    static bool isOfHand(std::size_t m) { return measureInfo(static_cast<Measure>(m)).limb == Limb::Hand; }

    AllValues measured(const BodyPoints& p) const
    {
        AllValues values{};
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            values[m] =
                measureValue(static_cast<Measure>(m), p, m_prior.lengths, m_prior.lead, m_prior.heading);
        return values;
    }
    AllValues at(const Camera& camera, const Picture& picture, const NetworkPoints& depth) const
    {
        return measured(m_measurer.placeWith(camera, picture, depth, m_prior.heading, m_fromSide));
    }
    AllValues withTrunk(double lean, double turn) const
    {
        return at(m_measurer.m_camera.camera, m_sound.points,
                  {trunkOutOfPicture(m_expected.at, m_away, lean, turn)});
    }
    /// With the camera gone round the performer, who stays where the picture shows them.
    AllValues turned(double azimuth, double elevation, double roll, double scale) const
    {
        const Camera& camera = m_measurer.m_camera.camera;
        const Vector3d pivot =
            0.5 * (m_prior.points[index(Landmark::LeftHip)] + m_prior.points[index(Landmark::RightHip)]);
        const Eigen::AngleAxisd aroundUp(-azimuth * kRadPerDeg, Vector3d::UnitZ());
        const Eigen::AngleAxisd tilt(elevation * kRadPerDeg, camera.rotation.row(0).transpose());
        const Eigen::AngleAxisd spin(roll * kRadPerDeg, camera.rotation.row(2).transpose());
        const Eigen::Matrix3d turn = (aroundUp * tilt * spin).toRotationMatrix();
        Camera c = camera;
        c.position = pivot + turn * (camera.position - pivot) * scale;
        c.rotation = camera.rotation * turn.transpose();
        return at(c, m_sound.points, m_expected);
    }
    void add(AllValues& sum, const AllValues& moved) const
    {
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            sum[m] += squared(moved[m] - m_value[m]);
    }
    double besides(Measure measure) const
    {
        const auto m = static_cast<std::size_t>(measure);
        // Hands that stand apart from each other keep together where they reach otherwise.
        if (measure == Measure::HandsApart) return kOptions.reachApart * std::abs(m_reaching[m] - m_value[m]);
        return isOfHand(m) ? std::hypot(m_leaning[m] - m_value[m], m_turning[m] - m_value[m],
                                        m_reaching[m] - m_value[m])
                           : footOffPlane(measure, m_placed, m_prior);
    }

    const OneViewMeasurer& m_measurer;
    const MomentPrior& m_prior;
    const SoundPicture& m_sound;
    bool m_fromSide;
    Vector3d m_away; ///< normal of the movement plane
    double m_size;   ///< of the body against 1.70 m
    NetworkPoints m_expected;
    BodyPoints m_placed;
    AllValues m_value{}, m_variance{}, m_guessed{};
    AllValues m_leaning{}, m_turning{}, m_reaching{};
};

std::vector<Value> OneViewMeasurer::measure(const BodyFrame& frame, const MomentPrior& prior,
                                            const MomentUncertainty& doubt) const
{
    const View view = viewOf(m_camera.azimuthFrom(prior.points), prior.heading, prior.lead);
    const bool fromSide = readsFromSide(prior);
    const SoundPicture sound = soundPicture(frame, prior);
    Errors errors(*this, prior, sound, fromSide);
    errors.addPoints(frame);
    errors.addUnseenTrunk();
    errors.addCamera();
    errors.findUnseenReach();
    std::vector<Value> out;
    for (const MeasureInfo& info : allMeasures()) {
        RawValue raw = errors.rawValue(info.measure);
        raw.view = view;
        raw.seen = sees(info.measure, frame, prior, sound);
        out.push_back(ratedValue(m_accuracy.entry(viewName(view), info.measure), raw, doubt));
        out.back().plane = fromSide ? Plane::Along : Plane::Across;
    }
    return out;
}

} // namespace jl
