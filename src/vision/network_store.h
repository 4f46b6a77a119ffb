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

/// Which networks read a clip: one over the whole of it, and whether heavy looks again at still moments.
struct NetworkChoice {
    LandmarkModel model = LandmarkModel::Full;
    bool secondPass = false;

    /// lite, full, heavy or full+heavy.
    std::string name() const { return modelName(model) + (secondPass ? "+heavy" : ""); }
};

/// What a word of the command line means: lite, full, heavy, or auto, which is full with heavy at the still
/// moments where they are installed and otherwise lite.
Result<NetworkChoice> networksFromName(const std::string& name);

} // namespace jl
