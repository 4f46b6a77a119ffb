#include "app/review/ribbon/posture_list.h"
#include "app/theme/mark.h"
#include <QHeaderView>
#include <QPainter>
#include <QStyledItemDelegate>

namespace jl
{
namespace
{

constexpr int kMarkRole = Qt::UserRole;
constexpr int kMarkColumn = 1;

/// Draws a row's mark behind its text.
class MarkDelegate : public QStyledItemDelegate
{
public:
    MarkDelegate(const Theme& theme, QObject* parent) : QStyledItemDelegate(parent), m_theme(theme) {}

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override
    {
        QStyledItemDelegate::paint(p, option, index);
        const QVariant mark = index.data(kMarkRole);
        if (mark.isNull()) return;
        p->setRenderHint(QPainter::Antialiasing);
        drawMark(*p, QRectF(option.rect).center(), 12, static_cast<Mark>(mark.toInt()), m_theme);
    }

private:
    const Theme& m_theme;
};

QString statusWords(PostureStatus status)
{
    if (status == PostureStatus::LeftOut) return PostureList::tr("left out");
    if (status == PostureStatus::Repeated) return PostureList::tr("done again");
    if (status == PostureStatus::OutOfOrder) return PostureList::tr("out of order");
    if (status == PostureStatus::NotFilmed) return PostureList::tr("not filmed");
    return {};
}

} // namespace

PostureList::PostureList(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QTreeWidget(parent), m_playhead(playhead), m_theme(theme)
{
    setColumnCount(2);
    setHeaderHidden(true);
    setRootIsDecorated(false);
    setIndentation(26);
    setUniformRowHeights(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    header()->setSectionResizeMode(kMarkColumn, QHeaderView::Fixed);
    header()->resizeSection(kMarkColumn, 28);
    setItemDelegateForColumn(kMarkColumn, new MarkDelegate(theme, this));
    setAccessibleName(tr("Postures and phases"));
    connect(&playhead, &Playhead::loaded, this, &PostureList::fill);
    connect(&playhead, &Playhead::phaseChanged, this, &PostureList::follow);
    connect(this, &QTreeWidget::currentItemChanged, this, &PostureList::go);
    connect(this, &QTreeWidget::itemClicked, this, &PostureList::go);
}

void PostureList::fill()
{
    m_following = true;
    clear();
    const ReviewScene* b = m_playhead.scene();
    for (std::size_t i = 0; b && i < b->review.postures.size(); ++i) {
        const ReviewedPosture& posture = b->review.postures[i];
        QString name = QString("%1   %2").arg(i + 1).arg(QString::fromStdString(posture.name));
        const QString status = statusWords(posture.status);
        if (!status.isEmpty()) name += " (" + status + ")";
        auto* row = new QTreeWidgetItem(this, {name});
        row->setToolTip(0, name);
        const Mark mark = markOf(b->review, i);
        row->setData(kMarkColumn, kMarkRole, static_cast<int>(mark));
        row->setData(kMarkColumn, Qt::AccessibleTextRole, markName(mark));
        if (!status.isEmpty()) row->setForeground(0, m_theme.quiet);
        for (std::size_t k = 0; k < posture.phases.size(); ++k) {
            const ReviewedPhase& phase = posture.phases[k];
            auto* part = new QTreeWidgetItem(row, {QString::fromStdString(phase.name)});
            part->setToolTip(0, part->text(0));
            if (!phase.student.matched) {
                part->setForeground(0, m_theme.quiet);
                continue;
            }
            const Mark own = markOf(b->review, i, k);
            part->setData(kMarkColumn, kMarkRole, static_cast<int>(own));
            part->setData(kMarkColumn, Qt::AccessibleTextRole, markName(own));
        }
    }
    m_following = false;
    follow();
}

void PostureList::follow()
{
    if (!m_playhead.scene() || topLevelItemCount() == 0) return;
    const auto [i, k] = m_playhead.phase();
    QTreeWidgetItem* row = topLevelItem(static_cast<int>(i));
    if (!row || k >= static_cast<std::size_t>(row->childCount())) return;
    QTreeWidgetItem* part = row->child(static_cast<int>(k));
    if (currentItem() == part) return;
    m_following = true;
    for (int n = 0; n < topLevelItemCount(); ++n)
        topLevelItem(n)->setExpanded(n == static_cast<int>(i));
    setCurrentItem(part);
    m_following = false;
}

void PostureList::go(QTreeWidgetItem* item)
{
    if (m_following || !item) return;
    if (QTreeWidgetItem* row = item->parent())
        m_playhead.goToPhase(static_cast<std::size_t>(indexOfTopLevelItem(row)),
                             static_cast<std::size_t>(row->indexOfChild(item)));
    else
        m_playhead.goToPosture(static_cast<std::size_t>(indexOfTopLevelItem(item)));
}

} // namespace jl
