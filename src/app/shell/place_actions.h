#pragma once
#include <QKeySequence>
#include <QString>
#include <functional>
#include <vector>

class QWidget;

namespace jl
{

/// Something that can be done in a place of the window.
struct PlaceAction {
    QString words;
    QKeySequence keys; ///< empty: it has none
    std::function<void()> run;
};

/// Everything that can be done now in a window: its keys, buttons and their menus that are on the screen and
/// not disabled. What has keys comes first. The window must outlive the list, which is made anew each time.
std::vector<PlaceAction> actionsOf(QWidget& window);

} // namespace jl
