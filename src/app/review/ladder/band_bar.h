#pragma once
#include "app/theme/mark.h"
#include <QRectF>

namespace jl
{

/// What a bar of the ladder shows.
struct BandBar {
    double value = 0, u = 0;
    std::optional<Band> band;
    std::optional<double> reference;
    Mark mark = Mark::Within;
};

/// The allowed band with room on both sides, a notch for the reference, and the value as a mark with two
/// standard uncertainties; without a band only an empty track.
void drawBandBar(QPainter& painter, const QRectF& area, const BandBar& bar, const Theme& theme);

} // namespace jl
