#pragma once
#include "base/units.h"
#include "camera/two_cameras.h"
#include "moment/one_view_measurer.h"
#include <optional>

namespace jl
{

/// Reads the measures of one moment from two pictures taken at once, by the meeting of the lines of sight:
/// every measure is seen, in whatever direction it lies.
class TwoViewMeasurer
{
public:
    TwoViewMeasurer(const TwoCameras& cameras, const PersonProfile& profile, const LandmarkOffsets& offsets,
                    const AccuracyTable& accuracy);

    const TwoCameras& cameras() const { return m_cameras; }
    /// What the table of accuracy calls these cameras' views of a posture (pairName()).
    std::string_view viewsOf(const MomentPrior& moment) const;

    /// The points in the room, anatomical, and how far apart each point's lines of sight pass, m.
    struct Placed {
        BodyPoints points;
        std::array<Metres, kLandmarkCount> rayDistance; ///< m

        /// The widest gap of knees and ankles: legs far apart were seen wrongly by one of the networks.
        double worstOfLegs() const;
    };
    Placed place(const BodyFrame& first, const BodyFrame& second) const;
    /// A placed body with its hips' line turned back to where it points (HipLine).
    BodyPoints withHipLine(const BodyPoints& placed) const;
    /// A measure of a placed body; that of the hips' line from the line turned back.
    double measureOf(Measure measure, const BodyPoints& placed, const MomentPrior& moment) const;

    /// One measure without its uncertainty, at a hundredth of the cost; none where it is not seen.
    std::optional<double> value(Measure measure, const BodyFrame& first, const BodyFrame& second,
                                const MomentPrior& moment) const;

    std::vector<Value> measure(const BodyFrame& first, const BodyFrame& second, const MomentPrior& moment,
                               const MomentUncertainty& doubt = {}) const;

private:
    bool sees(const MeasureInfo& info, const BodyFrame& first, const BodyFrame& second, const Placed& placed,
              Side lead) const;

    TwoCameras m_cameras;
    PersonProfile m_profile;
    LandmarkOffsets m_offsets;
    AccuracyTable m_accuracy;
};

} // namespace jl
