#include "pipeline/clip_source.h"
#include "exchange/track_file.h"

namespace jl
{

Result<Track> trackOf(const std::string& clipOrTrack, const NetworkChoice& networks, const Progress& progress)
{
    if (std::filesystem::path(clipOrTrack).extension() == ".json") return readTrack(clipOrTrack);
    ExtractionOptions options;
    options.networks = networks;
    options.progress = progress;
    return extractTrack(clipOrTrack, options);
}

} // namespace jl
