#pragma once
#include "base/result.h"
#include <string>

namespace jl
{

enum class LandmarkModel { Lite, Full, Heavy };

std::string modelName(LandmarkModel model);

/// The person detector's file, after its checksum was compared with models/SHA256SUMS.
Result<std::string> detectorFile();

/// The landmark network's file, checked in the same way.
Result<std::string> landmarkFile(LandmarkModel model);

/// The network a word of the command line means: lite, full, heavy, or auto, which is full where it is
/// installed and otherwise lite.
Result<LandmarkModel> modelFromName(const std::string& name);

} // namespace jl
