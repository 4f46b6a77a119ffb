#include "draw/theme.h"

namespace jl
{

const Theme& Theme::paper()
{
    static const Theme theme{"#F6F1E6",
                             "#FFFBF3",
                             "#D9CFBC",
                             "#22302F",
                             "#5C6763",
                             "#C2452D",
                             "#2F6B5B",
                             "#B97A10",
                             "#37547A",
                             "#2B3735",
                             "#D9D3C5",
                             "#42504D",
                             "#BFD8CC",
                             "#F9EBD2",
                             "#F0B48E",
                             "#FFFBF3",
                             "#1E2B2A",
                             "#FFFFFF",
                             QColor(255, 251, 243, 190)};
    return theme;
}

const Theme& Theme::dusk()
{
    static const Theme theme{"#232A2B",
                             "#2C3536",
                             "#47524F",
                             "#EFE8DA",
                             "#AEB6AE",
                             "#E07A5C",
                             "#7FBFA7",
                             "#E0B05A",
                             "#9DB9DE",
                             "#191F20",
                             "#C9C4B6",
                             "#39443F",
                             "#3F5E54",
                             "#40392C",
                             "#8A5540",
                             "#20282A",
                             "#14201F",
                             "#FFFFFF",
                             QColor(20, 28, 28, 190)};
    return theme;
}

} // namespace jl
