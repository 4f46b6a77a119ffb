#pragma once
#include <QFont>

namespace jl
{

/// Makes the shipped typeface, Lato, known to this program; false where one of its files cannot be read.
/// Needs a QGuiApplication.
bool loadFonts();

/// The shipped typeface, so many pixels large, for pages and pictures. Without ligatures, which the text of a
/// PDF would lose.
QFont face(double pixels, int weight = QFont::Normal);

} // namespace jl
