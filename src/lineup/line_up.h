#pragma once
#include "base/result.h"
#include "base/units.h"
#include "body/track.h"
#include "lineup/cost.h"
#include "lineup/posture_search.h"
#include "standards/stance_kind.h"
#include <functional>

namespace jl
{

/// s around an arrival in which the pose is held.
inline constexpr Seconds kHoldWindow = 0.2;

/// A phase of the model found in a clip.
struct FoundPhase {
    std::string posture, phase;
    StanceKind stance = StanceKind::Parallel;
    Seconds begin = 0;       ///< s in the clip
    Seconds time = 0;        ///< s in the clip: the key moment, in the middle of the stillness
    Seconds modelTime = 0;   ///< s in the model
    Degrees heading = 0;     ///< in which it was done, deg
    Side lead = Side::Right; ///< of this posture, as it was done
    Cost cost = 0;           ///< dissimilarity from the model there; 0: identical
    bool matched = false;    ///< false: the phase was not found
    bool otherSide = false;  ///< done as its own mirror picture
    Degrees turned = 0;      ///< deg, clockwise from above, from the direction that the form asks for
    /// S in the clip: a body that stands still where the clip begins stands until then. How long it has stood
    /// gives no information.
    std::optional<Seconds> stoodUntil = {};

    /// S in the clip, when the body moves on.
    double left() const { return stoodUntil.value_or(time); }
};

/// A phase in the way the run goes through it, which has not been found yet and is under way from then on, s.
FoundPhase phaseOf(const PostureRun& run, const ModelPerformance::Phase& p, double from);

/// A clip lined up with the model performance.
struct LineUp {
    Degrees azimuth = 0; ///< deg, the camera's direction from the line-up, to about 8 deg
    Metres distance = 0; ///< m, of the camera, for a body of the usual height
    Cost meanCost = 0;
    std::size_t model = 0;          ///< which of the offered models fits best
    std::vector<FoundPhase> phases; ///< every phase of the model, in its order
    std::vector<PostureRun> runs;   ///< in the clip's order

    /// The model's time at a time of the clip. An arrival is known better than the path through the run and
    /// is held for a moment; the path's error there fades linearly towards the next one, so that the model
    /// never jumps.
    double modelTimeAt(double clipTime) const;
    /// The phase whose key moment is nearest among those that were found; the first where none was.
    const FoundPhase& phaseAt(double clipTime) const;
    /// The run under way; none between runs.
    const PostureRun* runAt(double clipTime) const;
    /// Whether the clip shows the place of this posture in the form: false before where it begins and after
    /// where it ends.
    bool shows(std::size_t place) const;
    /// Whether a posture was left out, done again, in another order, on the other side or turned.
    bool departs() const;
    /// The run of a posture that counts; none where it was left out.
    const PostureRun* runOf(std::size_t place) const;

    /// Finds one phase of the run; the second time is that from which on it is under way.
    using PhaseFinder =
        std::function<FoundPhase(const PostureRun&, const ModelPerformance::Phase&, double from)>;
    /// Fills in every phase of the form, those of postures without a run as not found.
    void findPhases(const ModelPerformance& form, const PhaseFinder& find);

private:
    /// By the paths alone; between runs, evenly from one to the next.
    double pathTimeAt(double clipTime) const;
};

/// Lines a smoothed track up with the best of several models (sides), trying the directions in which the
/// camera may stand. Postures are found by connected warping of the body's picture (directions and lengths of
/// its bones) with the model's body as that camera would see it: in the model's order or not, left out,
/// repeated, on the other side, turned, with pauses and with other things in between; the clip may begin and
/// end in the middle of the form. Phases are then timed by warping posture by posture. A hint of the view
/// narrows the search. Refuses a clip in which the form cannot be found.
Result<LineUp> lineUp(const Track& track, std::span<const ModelPerformance> models,
                      std::optional<double> azimuthHint);

/// The runs only, as far as they go the form's own ways, at a fraction of the cost. Refuses only a clip in
/// which hardly a body is seen.
Result<LineUp> roughLineUp(const Track& track, std::span<const ModelPerformance> models,
                           std::optional<double> azimuthHint);
/// lineUp() after a rough one that gave the model and nearly the camera.
Result<LineUp> lineUpFrom(const LineUp& rough, const Track& track, std::span<const ModelPerformance> models,
                          PostureLook look = PostureLook::EveryWay);

} // namespace jl
