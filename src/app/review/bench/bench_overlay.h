#pragma once
#include "app/jobs/performer_feed.h"
#include "app/review/bench/picture_view.h"
#include "app/review/model/playhead.h"
#include "base/units.h"

namespace jl
{

/// How student and reference are shown: beside each other, the reference over the student, or both as figures
/// in the room.
enum class BenchMode { Beside, Over, Figure };

/// Whose picture is drawn over.
enum class BenchPicture { Student, SecondView, Reference };

/// What the bench draws over one picture at the playhead's moment, and the words below it.
struct BenchOverlay {
    PictureView::Overlay overlay;
    QString verdict;  ///< the chosen measure's value, or that it is not seen; empty where there is none
    Seconds time = 0; ///< s in the picture's own clip
};

/// The playhead must hold a review. `performer` is the film of the built-in reference.
BenchOverlay benchOverlay(const Playhead& playhead, BenchPicture picture, BenchMode mode,
                          const PerformerFilm& performer, const Theme& theme);

} // namespace jl
