#include "app/review/slip/card_order.h"
#include "app/theme/icon.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <algorithm>
#include <utility>

namespace jl
{

CardOrder::CardOrder(QWidget& column, const Theme& theme)
    : QObject(&column), m_column(column), m_theme(theme), m_line(new QFrame(&column))
{
    QPalette palette = m_line->palette();
    palette.setColor(QPalette::Window, theme.lantern);
    m_line->setPalette(palette);
    m_line->setAutoFillBackground(true);
    m_line->setObjectName("order.line");
    m_line->hide();
}

void CardOrder::clear()
{
    m_entries.clear();
    m_dragged = -1;
    m_line->hide();
}

QToolButton* CardOrder::handle(const QString& key, const QString& title, QWidget& card)
{
    auto* handle = new QToolButton(&card);
    handle->setObjectName("order." + key);
    handle->setIcon(icon("grip-vertical", m_theme.quiet));
    handle->setIconSize({16, 16});
    handle->setProperty("handle", true);
    handle->setFixedSize(24, 22); // no higher than the line of the title
    handle->setAutoRaise(true);
    handle->setCursor(Qt::OpenHandCursor);
    handle->setFocusPolicy(Qt::StrongFocus);
    handle->setToolTip(tr("Drag it to where it matters most (or Up and Down while it has the focus)"));
    handle->setAccessibleName(tr("Order of %1").arg(title));
    handle->installEventFilter(this);
    m_entries.append({key, &card, handle});
    if (key == m_moved) {
        m_moved.clear();
        QMetaObject::invokeMethod(handle, qOverload<>(&QWidget::setFocus), Qt::QueuedConnection);
    }
    return handle;
}

qsizetype CardOrder::placeAt(double y) const
{
    qsizetype place = 0;
    for (const Entry& e : m_entries)
        place += y > e.card->geometry().center().y();
    return place;
}

void CardOrder::showPlace(qsizetype before)
{
    const bool last = before == m_entries.size();
    const QRect card = m_entries[last ? before - 1 : before].card->geometry();
    m_line->setGeometry(card.left(), last ? card.bottom() + 2 : card.top() - 5, card.width(), 3);
    m_line->raise();
    m_line->show();
}

bool CardOrder::move(qsizetype from, qsizetype before)
{
    if (before == from || before == from + 1 || before < 0 || before > m_entries.size()) return false;
    QStringList keys;
    for (const Entry& e : m_entries)
        keys << e.key;
    keys.insert(before, keys[from]);
    keys.removeAt(before < from ? from + 1 : from);
    emit reordered(keys);
    return true;
}

bool CardOrder::eventFilter(QObject* watched, QEvent* event)
{
    const auto found =
        std::find_if(m_entries.begin(), m_entries.end(), [&](const Entry& e) { return e.handle == watched; });
    if (found == m_entries.end()) return false;
    const qsizetype at = found - m_entries.begin();
    const auto yOf = [&] {
        return m_column.mapFromGlobal(static_cast<QMouseEvent*>(event)->globalPosition()).y();
    };
    switch (event->type()) {
    case QEvent::MouseButtonPress:
        m_dragged = at;
        return false;
    case QEvent::MouseMove:
        if (m_dragged == at) showPlace(placeAt(yOf()));
        return false;
    case QEvent::MouseButtonRelease:
        m_line->hide();
        if (std::exchange(m_dragged, -1) == at) move(at, placeAt(yOf()));
        return false;
    case QEvent::ShortcutOverride: // the arrows belong to the handle that has the focus
    case QEvent::KeyPress: {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key != Qt::Key_Up && key != Qt::Key_Down) return false;
        event->accept();
        if (event->type() == QEvent::ShortcutOverride) return true;
        m_moved = m_entries[at].key; // before move(), which may rebuild the cards
        if (!move(at, key == Qt::Key_Up ? at - 1 : at + 2)) m_moved.clear();
        return true;
    }
    default:
        return false;
    }
}

} // namespace jl
