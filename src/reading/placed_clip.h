#pragma once
#include "body/framing.h"
#include "camera/two_cameras.h"
#include "lineup/line_up.h"
#include "moment/one_view_measurer.h"
#include "reading/measuring_tables.h"
#include <memory>
#include <span>

namespace jl
{

// The first two stages of reading a clip, each a value made from the one before:
//   track  ->  LinedUpClip  ->  PlacedClip  ->  ClipReading (clip_reading.h)

/// A clip whose smoothed track follows the model of its form.
struct LinedUpClip {
    Track track;     ///< steadied and smoothed, with swapped legs corrected
    Framing framing; ///< of the clip as extracted
    LineUp lineUp;
    ModelPerformance model; ///< of the offered ones, the one that fits best

    /// The side that leads the form, and the one that leads the posture under way.
    Side lead() const { return model.lead; }
    Side leadAt(double clipTime) const { return lineUp.phaseAt(clipTime).lead; }
};

/// How far a student has come off the model's place in the room, by the time in the clip (s; rising), m.
using Drift = std::vector<std::pair<double, Eigen::Vector3d>>;

/// A lined-up clip whose camera is placed, with what belongs to this student: body lengths, and the way over
/// the floor.
struct PlacedClip : LinedUpClip {
    PersonProfile profile; ///< as given; its height as lengths on the floor show it, where they do
    LensPrior lens;        ///< as hints or the file give it
    CalibratedCamera camera;
    std::shared_ptr<const OneViewMeasurer> measurer;
    BodyLengths lengths; ///< of the student, where they show in standing
    Drift drift;

    /// What the model expects at a time of the clip, in the direction of the phase nearest to it or of
    /// another.
    MomentPrior priorAt(double clipTime) const { return priorAt(clipTime, lineUp.phaseAt(clipTime)); }
    MomentPrior priorAt(double clipTime, const FoundPhase& phase) const;
    /// All measures at one frame, for courses over time.
    std::vector<Value> measureFrame(std::size_t frame) const;
    /// One measure at one frame without its uncertainty, for long courses; none where it is not seen.
    std::optional<double> valueAt(std::size_t frame, Measure measure) const;
};

/// Steadies, smooths and lines a track up with the best of the models (the sides in which the form may be
/// done). A hint of the camera's direction (deg) narrows the search. Fails where the form cannot be followed,
/// naming what is wrong with the clip where that is why.
Result<LinedUpClip> lineUpClip(Track extracted, std::span<const ModelPerformance> models,
                               std::optional<double> azimuthHint = {});

/// Places the camera by the standing body, levels it by the feet, and finds the student's lengths and drift.
PlacedClip placeClip(LinedUpClip clip, const PersonProfile& profile, const MeasuringTables& tables,
                     const CalibrationHints& hints = {});

/// The clip with another line-up. The camera stays; lengths and drift are found again.
PlacedClip withLineUp(PlacedClip clip, LineUp lineUp, const LandmarkOffsets& offsets);

/// The phase whose stance shows the body best for placing the camera: the first parallel one, else the one
/// most like the model.
const FoundPhase& standingPhase(const LineUp& lineUp);

/// The frames in which the body stands best for placing a camera, with how it stands. Refers to the clip.
StandingView standingView(const PlacedClip& clip);

} // namespace jl
