#include "app/shell/window_keys.h"
#include "app/shell/command_palette.h"
#include "app/shell/keys_dialog.h"
#include <QShortcut>

namespace jl
{

void addWindowKeys(QWidget& window, const Theme& theme)
{
    const auto on = [&window](const QKeySequence& keys, const QString& words, auto action) {
        auto* shortcut = new QShortcut(keys, &window);
        shortcut->setWhatsThis(words);
        QObject::connect(shortcut, &QShortcut::activated, &window, action);
    };
    on(QKeySequence::HelpContents, KeysDialog::tr("all keys"),
       [&window, &theme] { KeysDialog(window, theme).exec(); });
    on(Qt::CTRL | Qt::Key_K, KeysDialog::tr("find what you want to do"),
       [&window, &theme] { CommandPalette(actionsOf(window), theme, &window).exec(); });
}

} // namespace jl
