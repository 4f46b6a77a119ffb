#pragma once
#include <QColor>

namespace jl
{

/// All colours of the interface; no other place names a colour.
struct Theme {
    QColor ground, raised, line, ink, quiet; ///< paper, panels, hairlines, text, secondary text
    QColor lantern, pine, ochre, indigo;     ///< accent and the colours that go with the status shapes
    QColor rail, railText, railChosen;
    QColor band, chosen, glow; ///< allowed range in a bar; background of what is selected; the phase shown
    QColor onAccent;           ///< text on a filled accent
    QColor full, empty, halo;  ///< body over the picture: full leg, empty leg, soft edge around lines

    static const Theme& paper();
    static const Theme& dusk();
};

} // namespace jl
