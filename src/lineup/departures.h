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

/// The doubtful places of a path, with their neighbours. A place is doubtful where the path leaves the
/// model's order, where the dissimilarity of a posture is much above that of its neighbours (over the posture
/// or a few samples) or above the clip's, or where the tempo is much faster or slower (it may have been done
/// twice).
std::vector<bool> doubtfulPlaces(const PosturePath& path);

/// Whether departures match so much better than the form's order that they are believed. Two paths keep the
/// order: at any pace, and at the pace of the departing one. The gain in dissimilarity must exceed a limit
/// against the first, the gain in total cost another limit against the second; both limits are multiplied by
/// `share`. A body that is unlike the model everywhere matches other postures by chance, so the gain counts
/// relative to the dissimilarity about it.
bool isBelieved(const PosturePath& departing, const PosturePath& inOrder, const PosturePath& paced,
                Share share);

} // namespace jl
