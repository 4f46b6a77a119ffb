#pragma once
#include "base/progress.h"
#include "draw/pair_picture.h"

namespace jl
{

/// How passages become moving pictures.
struct PairTiming {
    Ratio tempo = 0.5;  ///< against the student's own, 0.125 to 2
    int times = 2;      ///< that each passage is shown
    Seconds hold = 1.2; ///< that the picture stands at the passage's moment
    bool sound = false; ///< the student's own, at its own pitch
    double framesPerSecond = 25;
};

/// The student's time of each picture of a passage, s.
std::vector<Seconds> pictureTimes(const PairPassage& passage, const PairTiming& timing);

struct PairClipRequest {
    std::vector<PairPassage> passages; ///< shown one after the other; at least one
    PairStyle style;
    PairTiming timing;
};

/// Writes an MP4 with student and reference in step. An error: no passage, a video file that cannot be
/// decoded, sound from a clip that has none, a file that cannot be written, Cancelled. Never leaves half a
/// file. Needs a QGuiApplication; for any thread.
Result<Done> writePairClip(const std::shared_ptr<const ReviewScene>& scene, const PictureFiles& files,
                           const PairClipRequest& request, const Theme& theme, const std::string& file,
                           const Progress& progress = {});

/// Where stills go, and how their names begin.
struct StillsPlace {
    std::string folder, name;
};

/// Writes the picture at the moment of each passage, or at its end where it has none, as PNG; numbered. The
/// files' names.
Result<std::vector<std::string>> writePairStills(const std::shared_ptr<const ReviewScene>& scene,
                                                 const PictureFiles& files, const PairClipRequest& request,
                                                 const Theme& theme, const StillsPlace& place);

/// Writes the right and wrong of each correction that the built-in performer can show (faultStrip()) as PNG.
/// The files' names; none is no error.
Result<std::vector<std::string>> writeFaultStrips(const ShippedData& data, const ReviewScene& scene,
                                                  const Slip& slip, const Theme& theme,
                                                  const StillsPlace& place);

} // namespace jl
