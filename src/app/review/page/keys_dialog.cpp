#include "app/review/page/keys_dialog.h"
#include "app/theme/label.h"
#include <QAbstractButton>
#include <QAction>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QShortcut>

namespace jl
{
namespace
{

using Keys = std::vector<std::pair<QString, QString>>; ///< key, what it does

QString shown(const QKeySequence& keys)
{
    return keys.toString(QKeySequence::NativeText);
}

/// What a button's tip says it does, without the key in brackets at its end.
QString purposeOf(const QAbstractButton& button)
{
    const QString tip = button.toolTip();
    const qsizetype bracket = tip.lastIndexOf(" (");
    const QString words = bracket > 0 ? tip.left(bracket) : tip;
    if (button.objectName().startsWith("rung.")) return KeysDialog::tr("ladder: %1").arg(words.toLower());
    return words.left(1).toLower() + words.mid(1);
}

Keys keysOf(const QWidget& place)
{
    Keys keys;
    for (const QAction* action : place.window()->actions())
        if (!action->shortcut().isEmpty()) keys.emplace_back(shown(action->shortcut()), action->text());
    for (const QShortcut* s : place.findChildren<QShortcut*>())
        if (!s->whatsThis().isEmpty()) keys.emplace_back(shown(s->key()), s->whatsThis());
    for (const QAbstractButton* b : place.findChildren<QAbstractButton*>())
        if (!b->shortcut().isEmpty()) keys.emplace_back(shown(b->shortcut()), purposeOf(*b));
    keys.emplace_back(KeysDialog::tr("+  -  0"), KeysDialog::tr("picture nearer, further, whole body"));
    keys.emplace_back(KeysDialog::tr("[  ]"),
                      KeysDialog::tr("while mending: choose a joint; arrows move it"));
    return keys;
}

} // namespace

KeysDialog::KeysDialog(QWidget& place, const Theme& theme) : QDialog(&place)
{
    setWindowTitle(tr("Keys"));
    const Keys keys = keysOf(place);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(24, 20, 24, 16);
    grid->setHorizontalSpacing(16);
    grid->setVerticalSpacing(6);
    const int rows = static_cast<int>(keys.size() + 1) / 2;
    for (int i = 0; i < static_cast<int>(keys.size()); ++i) {
        const auto& [key, purpose] = keys[static_cast<std::size_t>(i)];
        const int column = i / rows * 3;
        grid->addWidget(label(key, 1.0, QFont::DemiBold, theme.lantern, this), i % rows, column);
        grid->addWidget(label(purpose, 1.0, QFont::Normal, theme.ink, this), i % rows, column + 1);
    }
    grid->setColumnMinimumWidth(2, 24);
    auto* close = new QPushButton(tr("close"), this);
    close->setDefault(true);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    grid->addWidget(close, rows, 4, Qt::AlignRight);
}

} // namespace jl
