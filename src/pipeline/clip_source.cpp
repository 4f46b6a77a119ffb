#include "pipeline/clip_source.h"
#include "exchange/track_file.h"

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
    return extractTrack(clipOrTrack, options);
}

} // namespace jl
