#include "app/shell/command_palette.h"
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QTimer>
#include <QVBoxLayout>

namespace jl
{

CommandPalette::CommandPalette(std::vector<PlaceAction> actions, const Theme& theme, QWidget* parent)
    : QDialog(parent), m_actions(std::move(actions)), m_theme(theme)
{
    setWindowTitle(tr("What do you want to do?"));
    setObjectName("palette");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 16, 16, 16);
    layout->setSpacing(8);
    m_text = new QLineEdit(this);
    m_text->setObjectName("palette.text");
    m_text->setAccessibleName(tr("What do you want to do?"));
    m_text->setPlaceholderText(tr("a few letters, such as \"accept\" or \"knees\""));
    m_text->setFont(textFont(1.15));
    m_text->installEventFilter(this);
    connect(m_text, &QLineEdit::textChanged, this, &CommandPalette::filter);
    connect(m_text, &QLineEdit::returnPressed, this, &CommandPalette::run);
    layout->addWidget(m_text);
    m_list = new QListWidget(this);
    m_list->setObjectName("palette.list");
    m_list->setAccessibleName(tr("What can be done now"));
    m_list->setUniformItemSizes(true);
    connect(m_list, &QListWidget::itemClicked, this, &CommandPalette::run);
    layout->addWidget(m_list);
    resize(560, 440);
    filter({});
}

void CommandPalette::filter(const QString& text)
{
    m_list->clear();
    const QStringList wanted = text.split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < m_actions.size(); ++i) {
        const PlaceAction& action = m_actions[i];
        const bool fits = std::all_of(wanted.begin(), wanted.end(), [&](const QString& word) {
            return action.words.contains(word, Qt::CaseInsensitive);
        });
        if (!fits) continue;
        const QString keys = action.keys.toString(QKeySequence::NativeText);
        auto* item =
            new QListWidgetItem(keys.isEmpty() ? action.words : action.words + "   \u2013   " + keys, m_list);
        item->setData(Qt::UserRole, static_cast<int>(i));
    }
    m_list->setCurrentRow(0);
}

void CommandPalette::run()
{
    const QListWidgetItem* item = m_list->currentItem();
    accept();
    if (!item) return;
    // When this dialog is gone: what is done may open another.
    QTimer::singleShot(0, parentWidget(),
                       m_actions[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].run);
}

bool CommandPalette::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_text && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0) {
            m_list->setCurrentRow(std::clamp(m_list->currentRow() + step, 0, m_list->count() - 1));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace jl
