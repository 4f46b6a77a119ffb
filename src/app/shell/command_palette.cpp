#include "app/shell/command_palette.h"
#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QTimer>
#include <QTreeWidget>
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
    m_list = new QTreeWidget(this);
    m_list->setObjectName("palette.list");
    m_list->setAccessibleName(tr("What can be done now"));
    m_list->setUniformRowHeights(true);
    m_list->setRootIsDecorated(false);
    m_list->setAllColumnsShowFocus(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setColumnCount(2);
    m_list->setHeaderHidden(true);
    m_list->header()->setStretchLastSection(false);
    m_list->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_list->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    connect(m_list, &QTreeWidget::itemClicked, this, &CommandPalette::run);
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
        auto* item =
            new QTreeWidgetItem(m_list, {action.words, action.keys.toString(QKeySequence::NativeText)});
        item->setSizeHint(0, QSize(0, fontMetrics().height() * 3 / 2));
        item->setForeground(1, m_theme.quiet);
        item->setData(0, Qt::UserRole, static_cast<int>(i));
    }
    m_list->setCurrentItem(m_list->topLevelItem(0));
}

void CommandPalette::run()
{
    const QTreeWidgetItem* item = m_list->currentItem();
    accept();
    if (!item) return;
    // When this dialog is gone: what is done may open another.
    QTimer::singleShot(0, parentWidget(),
                       m_actions[static_cast<std::size_t>(item->data(0, Qt::UserRole).toInt())].run);
}

bool CommandPalette::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_text && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0) {
            const int row = m_list->indexOfTopLevelItem(m_list->currentItem()) + step;
            if (auto* next = m_list->topLevelItem(row)) m_list->setCurrentItem(next);
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace jl
