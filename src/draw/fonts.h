#pragma once

namespace jl
{

/// Makes the shipped typeface, Lato, known to this program; false where one of its files cannot be read.
/// Needs a QGuiApplication.
bool loadFonts();

} // namespace jl
