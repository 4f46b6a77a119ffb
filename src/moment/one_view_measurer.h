#pragma once
#include "base/units.h"
#include "camera/calibration.h"
#include "measure/value.h"
#include <vector>

namespace jl
{

/// What is known about a moment before looking at the picture: how the model performer stands then, in the
/// room frame and in the student's size. It gives what a single picture cannot: how far each point lies out
/// of the movement plane.
struct MomentPrior {
    BodyPoints points;
    Side lead = Side::Right;
    Degrees heading = 0; ///< direction of the posture, deg
    BodyLengths lengths; ///< of the student
    /// In which plane a longer stretch is read as a whole; none: in the one that shows this moment best.
    std::optional<bool> fromSide = {};
};

/// Reads the measures of one moment from one picture by the movement-plane method: every point's ray is met
/// with the vertical plane, parallel to the direction of the posture (seen from the side) or across it (seen
/// from the front or behind), in which the model has that point. Only measures that lie in that plane are
/// seen.
class OneViewMeasurer
{
public:
    OneViewMeasurer(const CalibratedCamera& camera, const PersonProfile& profile,
                    const LandmarkOffsets& offsets, const AccuracyTable& accuracy);

    std::vector<Value> measure(const BodyFrame& frame, const MomentPrior& prior,
                               const MomentUncertainty& doubt = {}) const;
    /// One measure without its uncertainty, at a hundredth of the cost; none where it is not seen.
    std::optional<double> value(Measure measure, const BodyFrame& frame, const MomentPrior& prior) const;

    /// The points in the room as the method sees them, anatomical.
    BodyPoints place(const BodyFrame& frame, const MomentPrior& prior) const;
    /// How far a body placed so goes along the line of sight with its weight, m in the room: place() leaves
    /// it out.
    Eigen::Vector3d unseenShift(const BodyPoints& placed, const MomentPrior& prior) const;

private:
    /// The picture's points after swapped legs were corrected, and whether the legs can be
    /// believed: as a pair, and each for its bones.
    struct SoundPicture {
        std::array<Eigen::Vector2d, kLandmarkCount> points;
        bool legsBelieved = true, leadBelieved = true, rearBelieved = true;
        NetworkPoints expected; ///< where the network would see what is expected
        BodyPoints placed;      ///< the points in the room, anatomical, with depths as expected
    };
    class Errors;
    bool readsFromSide(const MomentPrior& prior) const;
    bool sees(Measure measure, const BodyFrame& frame, const MomentPrior& prior,
              const SoundPicture& sound) const;
    SoundPicture soundPicture(const BodyFrame& frame, const MomentPrior& prior) const;
    bool bonesBelieved(const BodyPoints& points, const MomentPrior& prior, Side side) const;
    /// Where the network would see what is expected, with the body over the line between the student's feet.
    NetworkPoints expectedPoints(const SoundPicture& sound, const MomentPrior& prior, bool fromSide) const;
    BodyPoints placeWith(const Camera& camera, const std::array<Eigen::Vector2d, kLandmarkCount>& picture,
                         const NetworkPoints& depth, double headingDeg, bool fromSide) const;

    CalibratedCamera m_camera;
    PersonProfile m_profile;
    LandmarkOffsets m_offsets;
    AccuracyTable m_accuracy;
};

} // namespace jl
