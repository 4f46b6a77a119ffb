#pragma once
#include "lab/lab_data.h"
#include "vision/network_store.h"

namespace jl
{

/// Figures measured on this machine, now.
struct BenchmarkFigures {
    std::string model;
    int width = 0, height = 0, frames = 0, threads = 0;
    double extractionFps = 0;    ///< whole pipeline: decode, follow, refine
    double twoPassFps = 0;       ///< the same with heavy looking again at still moments; 0 where it does not
    double inferenceOnlyFps = 0; ///< the same network alone, one a thread on as many threads
    double decodeOnlyFps = 0;    ///< one thread
    double renderFps = 0;        ///< the built-in performer, at the same size
    double reviewMs = 0;         ///< line-up, calibration, measures, judgement of the extracted track
    double longReviewMs = 0; ///< the same for a whole form of five minutes at 30 frames a second, extracted
    double scrubMedianMs = 0, scrub95Ms = 0; ///< from a wished time to its picture in RGB, random times
    double memoryMb = 0;                     ///< largest resident size of this process
};

Result<BenchmarkFigures> runBenchmark(const LabData& data, const NetworkChoice& networks,
                                      const std::string& clip);
std::string benchmarkJson(const BenchmarkFigures& figures);
std::string benchmarkText(const BenchmarkFigures& figures);

} // namespace jl
