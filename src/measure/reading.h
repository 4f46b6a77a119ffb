#pragma once
#include "measure/accuracy_table.h"
#include "measure/calibration.h"
#include "measure/moment_doubt.h"
#include <vector>

namespace jl
{

/// How far a value can be trusted.
enum class Status { Ok, Weak, Unseen };
std::string_view statusName(Status s);

/// Where a camera stands against the direction of a posture; both: two cameras at once.
enum class View { Front, Behind, SideNear, SideFar, Corner, Both };

/// The view of a camera at the given azimuth (deg) on a posture with the given heading. Near and far say
/// whether the front leg is the one nearer to the camera.
View viewOf(double azimuth, double headingDeg, Side lead);
std::string_view viewName(View v);

/// What the table of accuracy calls two cameras at once that look at a posture in these views: beside one
/// from the side it matters where the other stands.
std::string_view pairName(View first, View second);

/// Where a value was read: in the vertical plane along the direction of the posture or across it, or in
/// space.
enum class Plane { Along, Across, Space };
std::string_view planeName(Plane p);

/// In which vertical plane one camera sees a posture: along its direction (from the side), else across it.
bool seenFromSide(double azimuth, double headingDeg);

/// What the pressure inside a sole, which no camera sees, adds to the uncertainty of the weight, %.
inline constexpr double kPressureSpread = 1.5;

/// One measure at one moment.
struct Value {
    Measure measure = Measure::KneeLeadFlexion;
    bool seen = false; ///< false: this view cannot give it; value and uncertainty then mean nothing
    double value = 0;  ///< deg, m or %
    double u = 0;      ///< standard uncertainty, same unit
    View view = View::Corner;
    Plane plane = Plane::Space;
    bool certain = true; ///< exact enough for what is promised of this measure
};

/// A measured value without the method's bias; a palm never looks further than straight up or down.
double withoutBias(const AccuracyTable::Entry& known, Measure measure, double value);

/// A measured value without its bias, and its uncertainty: from the variance that geometry gives, what is
/// known of the method and what of the moment; `besides`: a standard uncertainty that this value has beyond
/// those. What is not finite is not seen.
Value ratedValue(const AccuracyTable::Entry& known, Measure measure, View view, bool seen, double value,
                 double variance, const MomentDoubt& doubt = {}, double besides = 0);

/// What is known about a moment before looking at the picture: how the model performer stands then, in the
/// room frame and in the student's size. It gives what a single picture cannot: how far each point lies out
/// of the movement plane.
struct MomentPrior {
    BodyPoints points;
    Side lead = Side::Right;
    double heading = 0;  ///< direction of the posture, deg
    BodyLengths lengths; ///< of the student
    /// In which plane a longer stretch is read as a whole; none: in the one that shows this moment best.
    std::optional<bool> fromSide = {};
};

/// Reads the measures of one moment from one picture by the movement-plane method: every point's ray is met
/// with the vertical plane, parallel to the direction of the posture (seen from the side) or across it (seen
/// from the front or behind), in which the model has that point. Only measures that lie in that plane are
/// seen.
class PlaneReader
{
public:
    PlaneReader(const CalibratedCamera& camera, const PersonProfile& profile, const LandmarkOffsets& offsets,
                const AccuracyTable& accuracy);

    std::vector<Value> read(const BodyFrame& frame, const MomentPrior& prior,
                            const MomentDoubt& doubt = {}) const;
    /// One measure without its uncertainty, at a hundredth of the cost; none where it is not seen.
    std::optional<double> value(Measure measure, const BodyFrame& frame, const MomentPrior& prior) const;

    /// The points in the room as the method sees them, anatomical.
    BodyPoints place(const BodyFrame& frame, const MomentPrior& prior) const;
    /// How far a body placed so goes along the line of sight with its weight, m in the room: place() leaves
    /// it out.
    Eigen::Vector3d unseenShift(const BodyPoints& placed, const MomentPrior& prior) const;

private:
    /// The picture's points after legs that the network exchanged were put right, and whether the legs can be
    /// believed: as a pair, and each for its bones.
    struct SoundPicture {
        std::array<Eigen::Vector2d, kLandmarkCount> points;
        bool legsBelieved = true, leadBelieved = true, rearBelieved = true;
        BodyPoints expected; ///< where the network would see what is expected
        BodyPoints placed;   ///< the points in the room, anatomical, with depths as expected
    };
    bool readsFromSide(const MomentPrior& prior) const;
    bool sees(Measure measure, const BodyFrame& frame, const MomentPrior& prior,
              const SoundPicture& sound) const;
    SoundPicture soundPicture(const BodyFrame& frame, const MomentPrior& prior) const;
    bool bonesBelieved(const BodyPoints& points, const MomentPrior& prior, Side side) const;
    /// Where the network would see what is expected, with the body over the line between the student's feet.
    BodyPoints expectedPoints(const SoundPicture& sound, const MomentPrior& prior, bool fromSide) const;
    BodyPoints placeWith(const Camera& camera, const std::array<Eigen::Vector2d, kLandmarkCount>& picture,
                         const BodyPoints& prior, double headingDeg, bool fromSide) const;

    CalibratedCamera m_camera;
    PersonProfile m_profile;
    LandmarkOffsets m_offsets;
    AccuracyTable m_accuracy;
};

} // namespace jl
