#include "pipeline/clip_source.h"
#include "exchange/track_file.h"
#include "exchange/track_precision.h"

namespace jl
{

bool namesTrack(const std::string& clipOrTrack)
{
    const auto ending = std::filesystem::path(clipOrTrack).extension();
    return ending == ".json" || ending == ".csv";
}

Result<Track> trackOf(const std::string& clipOrTrack, const NetworkChoice& networks, const Progress& progress)
{
    if (namesTrack(clipOrTrack)) return readTrack(clipOrTrack);
    ExtractionOptions options;
    options.networks = networks;
    options.progress = progress;
    auto track = extractTrack(clipOrTrack, options);
    if (!track) return track;
    for (BodyFrame& frame : track->frames) // so that the clip and its kept track give the same review
        frame = inKeptPrecision(frame);
    return track;
}

} // namespace jl
