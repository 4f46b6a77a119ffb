#pragma once
#include "app/jobs/frame_feed.h"
#include "app/jobs/picture_cache.h"
#include "body/track.h"
#include "pipeline/shipped_data.h"

namespace jl
{

/// The built-in performer as a reference to look at. Pictures are drawn when they are asked for, until the
/// whole film lies in the cache; from then on it follows a hand, and what is rested on is drawn sharp.
struct PerformerFilm {
    Track track;                                   ///< exact body points in its pictures
    Camera camera;                                 ///< that films it
    std::function<BodyPoints(double time)> bodyAt; ///< in the room, m
    QString name; ///< of the film in the cache: the same film has the same name
    PictureCache::Make make;
    std::function<FrameFeed::Source()> drawn; ///< pictures as they are asked for

    /// The same, with drafts from the film at the path as soon as it is there.
    std::function<FrameFeed::Source()> source(const std::string& path) const;
};

/// Films the form from about the given direction (deg), at a size that suits the bench. Takes a while; for
/// any thread.
Result<PerformerFilm> filmPerformer(const ShippedData& data, const std::string& form,
                                    const std::string& school, Side lead, double azimuth);

} // namespace jl
