#include "draw/fonts.h"
#include "base/paths.h"
#include <QFontDatabase>

namespace jl
{

bool loadFonts()
{
    bool all = true;
    for (const char* file : {"Lato-Regular.ttf", "Lato-Semibold.ttf", "Lato-Bold.ttf"}) {
        const auto path = dataFolder() / "fonts" / file;
        all = QFontDatabase::addApplicationFont(QString::fromStdString(path.string())) >= 0 && all;
    }
    return all;
}

} // namespace jl
