#include "draw/fonts.h"
#include "base/paths.h"
#include <QFontDatabase>
#include <algorithm>
#include <cmath>

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

QFont face(double pixels, int weight)
{
    QFont font("Lato");
    font.setWeight(static_cast<QFont::Weight>(weight));
    font.setLetterSpacing(QFont::AbsoluteSpacing, 0.1); // puts ligatures off
    font.setPixelSize(std::max(1, static_cast<int>(std::lround(pixels))));
    return font;
}

} // namespace jl
