#include "pipeline/clip_source.h"
#include "exchange/track_file.h"

namespace jl
{

Result<Track> trackOf(const std::string& clipOrTrack, LandmarkModel model, const Progress& progress)
{
    if (std::filesystem::path(clipOrTrack).extension() == ".json") return readTrack(clipOrTrack);
    ExtractionOptions options;
    options.model = model;
    options.progress = progress;
    return extractTrack(clipOrTrack, options);
}

} // namespace jl
