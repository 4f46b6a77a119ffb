#pragma once
#include "base/progress.h"
#include "base/units.h"
#include "lab/lab_data.h"
#include "lab/validation_cases.h"
#include "reading/pair_measurement.h"
#include "vision/network_store.h"

namespace jl
{

/// One measured value against the truth.
struct ValidationSample {
    std::string posture, phase, view;
    Value value;
    double truth = 0;
    Status status = Status::Unseen; ///< under the phase's band
    Seconds keyMomentError = 0;     ///< s

    /// Of the value; headings on the short way round.
    double error() const;
};

/// One value of a phase as a whole against the truth.
struct PhaseSample {
    std::string posture, phase, view;
    PhaseValue value;
    double truth = 0;
};

struct CaseOutcome {
    ValidationCase request;
    std::vector<ValidationSample> samples;
    std::vector<PhaseSample> phaseSamples;
    Share seenShare = 0;
    Degrees azimuthError = 0; ///< of the camera's direction from the opening, deg
    Track track;              ///< as extracted
    std::shared_ptr<const ClipReading> reading;
};

/// Where the extracted track of a case is kept, under a name made of everything that decides it.
std::filesystem::path keptTrack(const ShippedData& data, const ValidationCase& c,
                                const NetworkChoice& networks, const std::filesystem::path& cache);

/// Renders, encodes, extracts, lines up, calibrates and measures one case with the whole real pipeline.
/// Extracted tracks are kept in the cache folder (keptTrack()).
Result<CaseOutcome> runCase(const ShippedData& data, const ValidationCase& c, const NetworkChoice& networks,
                            const std::filesystem::path& cache);

/// Only renders and extracts a case: an outcome with a track and no samples.
Result<CaseOutcome> followCase(const ShippedData& data, const ValidationCase& c,
                               const NetworkChoice& networks, const std::filesystem::path& cache);

/// The same without rendering or networks: exact points with errors as the networks make them
/// (NetworkErrors). A thousand times faster, and as true as those errors are.
Result<CaseOutcome> runAnalyticCase(const LabData& data, const ValidationCase& c);

/// What two cases that film one performance at once give together, in the first one's phases, or only by
/// where their lines of sight meet, to which the table of accuracy belongs; views as pairName() calls them.
/// Fails as measureTogether() does.
Result<CaseOutcome> pairOutcome(const ShippedData& data, const CaseOutcome& first, const CaseOutcome& second,
                                bool onlyTriangulated = false);

} // namespace jl
