#pragma once
#include "draw/theme.h"
#include "pipeline/review_scene.h"
#include "review/slip.h"
#include <QImage>

namespace jl
{

/// A correction as the built-in performer shows it, in four pictures: on the way and arrived, first with the
/// fault in an ordinary size, then without; seen from where the student was filmed. NothingFound where the
/// performer cannot show the fault, or the correction is an own finding. Needs a QGuiApplication.
Result<QImage> faultStrip(const ShippedData& data, const ReviewScene& scene, const SlipItem& item,
                          const Theme& theme);

} // namespace jl
