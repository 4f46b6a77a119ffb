#pragma once
#include "app/theme/theme.h"
#include <QFrame>
#include <QStringList>
#include <QToolButton>

namespace jl
{

/// Lets the cards of a column be put in another order: by dragging each by its handle, or with the arrow keys
/// on the handle. It only emits the wish; the owner of the cards moves them.
class CardOrder : public QObject
{
    Q_OBJECT

public:
    CardOrder(QWidget& column, const Theme& theme);

    void clear();

    /// A handle for the card of a key, which is the next in the column.
    QToolButton* handle(const QString& key, const QString& title, QWidget& card);

signals:
    /// All keys in the order wished for.
    void reordered(const QStringList& keys);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Entry {
        QString key;
        QWidget* card = nullptr;
        QToolButton* handle = nullptr;
    };
    qsizetype placeAt(double y) const; ///< before which card, in the column's coordinates
    void showPlace(qsizetype before);
    bool move(qsizetype from, qsizetype before); ///< false: it is there already

    QWidget& m_column;
    const Theme& m_theme;
    QList<Entry> m_entries;
    QFrame* m_line = nullptr; ///< where a dragged card would come to lie
    qsizetype m_dragged = -1;
    QString m_moved; ///< by key: its new handle gets the focus back
};

} // namespace jl
