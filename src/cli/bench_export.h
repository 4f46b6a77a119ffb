#pragma once
#include "base/result.h"
#include "vision/network_store.h"

namespace jl::cli
{

/// How fast a finished review leaves the program, on this machine, now.
struct ExportFigures {
    double slipMs = 0;   ///< the page as PDF, with its pictures taken from the clip
    double clipFps = 0;  ///< pictures a second of 20 s of student and reference side by side, 1280 x 720
    double bundleMs = 0; ///< the bundle with its video
};

/// Measures with a clip; empty: one of the demo's.
Result<ExportFigures> benchmarkExport(const std::string& clip, const NetworkChoice& networks);
std::string exportJson(const ExportFigures& figures);
std::string exportText(const ExportFigures& figures);

} // namespace jl::cli
