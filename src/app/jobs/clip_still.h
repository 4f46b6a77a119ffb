#pragma once
#include <QFuture>
#include <QImage>
#include <QString>

namespace jl
{

/// A picture from the middle of a clip, `width` pixels wide, decoded in the background. Null where the clip
/// cannot be decoded: a still is an ornament, and opening the clip says what is wrong with it.
QFuture<QImage> clipStill(const QString& file, int width);

} // namespace jl
