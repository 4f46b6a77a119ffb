#pragma once
#include "body/framing.h"
#include "camera/two_cameras.h"
#include "lineup/posture_cut.h"
#include "measure/floor_contact.h"
#include "measure/phase_measure.h"
#include "moment/reading.h"
#include <memory>

namespace jl
{

/// The tables of data/measure, read once.
struct MeasuringTables {
    LandmarkOffsets offsets;
    AccuracyTable accuracy;
    static Result<MeasuringTables> load(const std::filesystem::path& folder);
};

/// What is measured at the key moment of one phase.
struct PhaseReading {
    FoundPhase phase;
    std::vector<Value>
        values; ///< one for every measure, in the order of Measure; empty when the phase was not found
    std::vector<PhaseValue> whole; ///< in the order of PhaseMeasure; empty when the phase was not found
};

/// A clip that was lined up with the model of its form, calibrated from the body, and measured at its key
/// moments.
struct ClipReading {
    Track track;     ///< smoothed
    Framing framing; ///< of the clip as extracted
    LineUp lineUp;
    LensPrior lens; ///< as hints or the file tell it
    CalibratedCamera camera;
    ModelPerformance model;
    PersonProfile profile;
    BodyLengths lengths; ///< of the student, where they show in standing
    std::vector<PhaseReading> phases;
    std::vector<FloorMeeting> meetings; ///< of the feet with the floor, in order
    std::shared_ptr<const PlaneReader> reader;
    /// How far the student has come off the model's place in the room, by the time in the clip, s and m.
    std::vector<std::pair<double, Eigen::Vector3d>> drift;

    /// The side that leads the form, and the one that leads the posture under way.
    Side lead() const { return model.lead; }
    Side leadAt(double clipTime) const { return lineUp.phaseAt(clipTime).lead; }
    /// What the model expects at a time of the clip, in the direction of the phase nearest to it or of
    /// another.
    MomentPrior priorAt(double clipTime) const { return priorAt(clipTime, lineUp.phaseAt(clipTime)); }
    MomentPrior priorAt(double clipTime, const FoundPhase& phase) const;
    /// All measures at one frame, for courses over time.
    std::vector<Value> readFrame(std::size_t frame) const;
    /// One measure at one frame without its uncertainty, for long courses; none where it is not seen.
    std::optional<double> valueAt(std::size_t frame, Measure measure) const;
};

/// The phase whose stance shows the body best for placing the camera: the first parallel one, else the
/// likest.
const FoundPhase& standingPhase(const LineUp& lineUp);

/// The frames in which the body stands best for placing a camera, with how it stands. Refers to the clip.
StandingView standingView(const ClipReading& clip);

/// Smooths, lines up, calibrates and measures. The models are the sides in which the form may be done.
Result<ClipReading> readClip(Track track, std::span<const ModelPerformance> models,
                             const PersonProfile& profile, const MeasuringTables& tables,
                             std::optional<double> azimuthHint = {}, const CalibrationHints& hints = {});

/// Reads a clip anew that shows no departure from the form, where one filmed at once does: half the evidence
/// is enough. The reading stays where there is none even so.
void readExpectingDepartures(ClipReading& clip, std::span<const ModelPerformance> models,
                             const MeasuringTables& tables);

/// Reads a clip anew with its postures and key moments put where they are said to be. Refuses what
/// lineUpAsCut() refuses; the reading stays then.
Result<Done> readAsCut(ClipReading& clip, std::span<const PostureCut> cuts, const MeasuringTables& tables);

} // namespace jl
