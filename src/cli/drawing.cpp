#include "cli/drawing.h"
#include "draw/fonts.h"
#include <cstdio>

namespace jl::cli
{
namespace
{

/// Before the application is made.
int& withoutScreen(int& count)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    return count;
}

} // namespace

Drawing::Drawing() : m_application(withoutScreen(m_count), m_arguments)
{
    if (!loadFonts())
        std::fprintf(stderr, "The program's typeface cannot be read; slips are set in another one.\n");
}

} // namespace jl::cli
