#pragma once
#include "base/progress.h"
#include "body/landmark_offsets.h"
#include "body/track.h"
#include "media/encoder.h"
#include "performer/performance.h"
#include "render/scene.h"
#include <span>
#include <string>

namespace jl
{

/// Where the camera of a simulated clip stands.
struct CameraPlace {
    double azimuth = 0;    ///< deg, 0 in front, 90 on the performer's right
    double elevation = 4;  ///< deg
    double distance = 4.2; ///< m
    double roll = 0;       ///< deg, a camera held askew
    double aside = 0;      ///< turned aside, so that the performer stands off the middle: share of the width
    double lens = 1;       ///< focal length against the usual one (kUsualFocalShare)
    bool fit = false;      ///< steps back until the body stays in the picture all the time
};

/// A view of the command line: front, corner, side, behind (with small natural deviations when the seed is
/// not 0, and as far off as the form needs), or "AZ,EL,DIST" taken exactly. A side camera stands on the
/// performer's right.
Result<CameraPlace> cameraPlace(const std::string& view, std::uint32_t seed);

/// Who else is in the picture.
struct Company {
    const Performance* passer = nullptr; ///< somebody who walks through the picture between begin and end
    double passesAt = 0.75;    ///< share of the way from the camera to the performer; above 1 passes behind
    double begin = 0, end = 1; ///< s
    double mirror = 0;         ///< m behind the performer's middle hangs a mirror; 0: none
};

struct ClipRequest {
    CameraPlace camera;
    std::string hall = "evening";
    int width = 1280;
    int height = 720;
    double framesPerSecond = 30;
    double noise = 2.0;
    double shutter = 0;   ///< share of a frame's time the shutter is open: motion blur; 0 is a moment
    double shake = 0;     ///< a hand-held camera: how far the picture wanders, pixels
    double uneven = 0;    ///< frame times off the even rate, share of an interval (see frameTimes)
    int quarterTurns = 0; ///< a phone held upright: stored lying, with rotation metadata of as many turns
    std::uint32_t seed = 1;
    double quality = 23;
    bool quicklySought = false; ///< coded for scrubbing: every moment is found at once
    bool sound = false;         ///< of the hall, as the camera's microphone takes it up (hallSound())
    Company company;
    Progress progress;
};

/// The place of the request's camera once it has stepped back as far as it must.
CameraPlace fittedPlace(const Performance& performance, const ClipRequest& request);

/// The camera that films a performance: it looks at the middle of the ground that is covered.
Camera cameraFor(const Performance& performance, const ClipRequest& request);

/// How tall the performer is in the clip's pictures at the start, standing, pixels.
double bodyPixels(const Performance& performance, const ClipRequest& request);

/// When the frames of the clip are taken, s.
std::vector<double> clipTimes(const Performance& performance, const ClipRequest& request);

/// Renders a performance and writes it as a video. Width and height are those of the upright picture.
Result<Done> renderClip(const Performance& performance, const ClipRequest& request, const std::string& file);

/// What a perfect landmark network would see in that clip, and what is heard.
Track exactTrack(const Performance& performance, const ClipRequest& request);

/// What a network without errors but with its own idea of where its points lie would see in an even clip that
/// shows these moments of the performance, s.
Track conventionalTrack(const Performance& performance, const ClipRequest& request,
                        const LandmarkOffsets& offsets, std::span<const double> moments);

} // namespace jl
