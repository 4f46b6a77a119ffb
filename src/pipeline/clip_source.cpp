#include "pipeline/clip_source.h"
#include "exchange/track_file.h"

namespace jl
{

Result<Track> trackOf(const std::string& clipOrTrack, const NetworkChoice& networks, const Progress& progress)
{
    const auto ending = std::filesystem::path(clipOrTrack).extension();
    if (ending == ".json" || ending == ".csv") return readTrack(clipOrTrack);
    ExtractionOptions options;
    options.networks = networks;
    options.progress = progress;
    return extractTrack(clipOrTrack, options);
}

} // namespace jl
