#pragma once
#include "app/theme/theme.h"
#include "pipeline/shipped_data.h"
#include <QImage>

namespace jl
{

/// What a sheet of pictures of the built-in performer shows.
struct SheetRequest {
    std::vector<std::string> forms; ///< forms or single postures; of a single posture only its own phases
    std::string school = "upright-broad";
    bool arrivalsOnly = false;        ///< only the key moment by which each posture is known
    std::vector<double> views = {25}; ///< camera directions against the posture's, deg, one picture each
    int columns = 6;
};

/// Pictures of the key moments of forms with their names: to look at, to choose from, and for the manual.
Result<QImage> postureSheet(const ShippedData& data, const SheetRequest& request, const Theme& theme);

} // namespace jl
