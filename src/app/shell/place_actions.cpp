#include "app/shell/place_actions.h"
#include <QAbstractButton>
#include <QAction>
#include <QMenu>
#include <QPointer>
#include <QPushButton>
#include <QShortcut>
#include <QWidget>
#include <algorithm>
#include <set>

namespace jl
{
namespace
{

QString lowered(const QString& words)
{
    return words.left(1).toLower() + words.mid(1);
}

/// What a button's tip says it does, without the key in brackets at its end; else its name.
QString purposeOf(const QAbstractButton& button)
{
    const QString tip = button.toolTip();
    const qsizetype bracket = tip.lastIndexOf(" (");
    const QString words = bracket > 0 ? tip.left(bracket) : tip;
    if (button.objectName().startsWith("rung.")) return QObject::tr("ladder: %1").arg(words.toLower());
    const QString name =
        button.accessibleName().isEmpty() ? button.text().remove('&') : button.accessibleName();
    // A name says which of many buttons it is; a tip says what it does.
    return lowered(words.isEmpty() || button.shortcut().isEmpty() ? name : words);
}

template <class T>
std::function<void()> later(T* object, void (T::*act)())
{
    return [object = QPointer<T>(object), act] {
        if (object) (object->*act)();
    };
}

void addButtons(std::vector<PlaceAction>& all, QWidget& window)
{
    for (QAbstractButton* b : window.findChildren<QAbstractButton*>()) {
        if (!b->isVisible() || !b->isEnabled()) continue;
        const auto* push = qobject_cast<QPushButton*>(b);
        if (QMenu* menu = push ? push->menu() : nullptr) {
            for (QAction* action : menu->actions())
                if (!action->isSeparator() && action->isEnabled())
                    all.push_back(
                        {purposeOf(*b) + ": " + action->text(), {}, later(action, &QAction::trigger)});
            continue;
        }
        if (const QString words = purposeOf(*b); !words.isEmpty())
            all.push_back({words, b->shortcut(), later(b, &QAbstractButton::click)});
    }
}

} // namespace

std::vector<PlaceAction> actionsOf(QWidget& window)
{
    std::vector<PlaceAction> all;
    for (QShortcut* s : window.findChildren<QShortcut*>()) {
        const auto* owner = qobject_cast<QWidget*>(s->parent());
        if (s->whatsThis().isEmpty() || !s->isEnabled() || !owner || !owner->isVisible()) continue;
        all.push_back({s->whatsThis(), s->key(), [shortcut = QPointer<QShortcut>(s)] {
                           if (shortcut) emit shortcut->activated();
                       }});
    }
    addButtons(all, window);
    std::set<QString> listed;
    std::erase_if(all, [&](const PlaceAction& a) { return !listed.insert(a.words).second; });
    std::stable_partition(all.begin(), all.end(), [](const PlaceAction& a) { return !a.keys.isEmpty(); });
    return all;
}

} // namespace jl
