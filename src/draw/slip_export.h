#pragma once
#include "draw/slip_page.h"

namespace jl
{

/// How a slip is written, by the ending of its file.
enum class SlipFormat { Pdf, Html, Text };
/// An error names the endings there are.
Result<SlipFormat> slipFormatOf(const std::string& file);

/// Writes a slip to a file; window and command line write slips by this function alone. PDF needs a
/// QGuiApplication. Never leaves half a file.
Result<Done> writeSlip(const SlipPage& page, SlipFormat format, PaperSize paper, const std::string& file);

} // namespace jl
