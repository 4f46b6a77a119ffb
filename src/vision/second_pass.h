#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "body/track.h"
#include <string>

namespace jl
{

/// A second look with the heavy network where the body stands still, because that is where values are read:
/// it has far fewer exchanged or invented legs. Within a quarter of a second of every still moment the
/// track's points are replaced by those of the heavy network (about 12 looks a second, evenly joined in
/// between). Frames in which it sees nobody keep what they had. Where the two networks differ about a joint,
/// their difference is faded out over the frames beside it, so that the body does not jump.
Result<Done> runSecondPass(Track& track, const std::string& clip, int threads, const Progress& progress);

} // namespace jl
