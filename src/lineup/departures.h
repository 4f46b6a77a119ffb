#pragma once
#include "base/units.h"
#include "lineup/posture_path.h"

namespace jl
{

/// Whether a run leaves the model's order or its usual ways, and whether any does. A clip may begin anywhere.
bool departsAt(const PosturePath& path, std::size_t run);
bool departs(const PosturePath& path);

/// Whether a path begins from the opening stance, but not with what the form begins with.
bool skipsBeginning(const PosturePath& path);

/// Whether a clip that begins in the middle of a posture would show it on the other side or turned. Where
/// postures alternate that is another one, and what went before is not known: nothing is said about it.
bool beginsAside(const PosturePath& path);

/// The places about which a path leaves doubts, with their neighbours: where it leaves the model's order, or
/// goes through a posture much more unlike it than what is usual there (whoever walks aside is further from
/// the model's picture for a while), for some moments of it or on the whole, or in the clip (whoever stands
/// on other feet is so for postures on end), or much faster or slower (it may have been done twice).
std::vector<bool> doubtfulPlaces(const PosturePath& path);

/// Whether departures fit so much better than the form's own order, where they are, that they are to be
/// believed; with a share of the evidence that is asked for otherwise. Two paths keep the order: at any pace,
/// and at the same pace as the departing one. The pictures alone must speak for the departures against the
/// first, the pictures and the haste against the second. A body that is unlike the model everywhere fits
/// other postures by chance: the worse the clip fits, the more departures must explain.
bool isBelieved(const PosturePath& departing, const PosturePath& inOrder, const PosturePath& paced,
                Share share);

} // namespace jl
