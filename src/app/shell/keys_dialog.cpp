#include "app/shell/keys_dialog.h"
#include "app/shell/place_actions.h"
#include "app/theme/label.h"
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>

namespace jl
{
namespace
{

using Keys = std::vector<std::pair<QString, QString>>; ///< key, what it does

Keys keysOf(QWidget& window)
{
    Keys keys;
    for (const PlaceAction& action : actionsOf(window))
        if (!action.keys.isEmpty())
            keys.emplace_back(action.keys.toString(QKeySequence::NativeText), action.words);
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
