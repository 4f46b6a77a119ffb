#pragma once
#include "app/shell/main_window.h"

namespace jl
{

/// Figures of the review on this machine, now.
struct InterfaceFigures {
    int width = 0, height = 0;                  ///< of the clip
    double seconds = 0;                         ///< that it lasts
    double openMs = 0;                          ///< from the wish to a reviewed clip's finished review
    double filmsMs = 0;                         ///< until previews and the performer's film were made
    double scrubMedianMs = 0, scrub95Ms = 0;    ///< from a dragged playhead to its picture on the screen
    double jumpMedianMs = 0, jump95Ms = 0;      ///< the same anywhere in the clip
    double playedFrames = 0, droppedFrames = 0; ///< while playing at full speed with all that is drawn over
    double paintMedianMs = 0, paint95Ms = 0;    ///< the student's picture with everything over it
    double figureFps = 0;                       ///< both bodies in the room, as fast as they can be painted
    double ribbonMs = 0;                        ///< one painting of the time lines
    double memoryMb = 0;                        ///< largest resident size of this process
};

/// How often each thing is done; the usual numbers make medians repeatable within some per cent.
struct BenchmarkEffort {
    int drags = 200, jumps = 60, paints = 60, turns = 120;
    double playSeconds = 8;
    bool untilFilmsAreMade = true; ///< otherwise pictures come from where they are at hand
};

/// Drives the window's review of a clip as a hand would. The window must be shown; the clip was extracted.
Result<InterfaceFigures> benchmarkInterface(MainWindow& window, qint64 clip,
                                            const BenchmarkEffort& effort = {});

/// Adds a clip of a student of this height (m) with its track to the library; its id.
Result<qint64> addBenchmarkClip(Library& library, const QString& clip, const Track& track, double height);

std::string interfaceBenchmarkJson(const InterfaceFigures& figures);

} // namespace jl
