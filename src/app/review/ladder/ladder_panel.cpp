#include "app/review/ladder/ladder_panel.h"
#include "app/review/ladder/ladder_view.h"
#include "app/theme/choice_box.h"
#include "app/theme/label.h"
#include "app/theme/whole_lines.h"
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace jl
{

LadderPanel::LadderPanel(OpenReview& review, const Context& context, QWidget* parent)
    : QWidget(parent), m_review(review), m_context(context)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    auto* ladder = new LadderView(review.playhead(), context.theme);
    ladder->setObjectName("ladder");
    layout->addLayout(buildHead(*ladder));
    auto* scroll = new QScrollArea(this);
    scroll->setWidget(ladder);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    // Queued, until the layout has settled.
    connect(ladder, &LadderView::detailPlaced, scroll, [scroll](QWidget* detail) {
        QMetaObject::invokeMethod(
            scroll, [scroll, detail] { scroll->ensureWidgetVisible(detail, 0, 8); }, Qt::QueuedConnection);
    });
    new WholeLines(*scroll, context.theme); // the scroll area keeps it
    layout->addWidget(scroll, 1);
    connect(&review, &OpenReview::chosen, this, &LadderPanel::fill);
}

QLayout* LadderPanel::buildHead(LadderView& ladder)
{
    auto* both = new QVBoxLayout;
    both->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Ladder"), 1.1, QFont::DemiBold, m_context.theme.ink, this));
    head->addStretch(1);
    auto* out = new QPushButton(tr("what is out"), this);
    out->setObjectName("ladder.out");
    out->setCheckable(true);
    out->setToolTip(tr("Only what stands out at this moment, of all rungs (9)"));
    out->setAccessibleName(tr("Only what stands out at this moment"));
    out->setShortcut(Qt::Key_9);
    connect(out, &QPushButton::toggled, &ladder, &LadderView::showOnlyOut);
    connect(&ladder, &LadderView::onlyOutChanged, out, &QPushButton::setChecked);
    head->addWidget(out);
    both->addLayout(head);
    auto* by = new QHBoxLayout;
    both->addLayout(by);
    m_school = new ChoiceBox(tr("School"), 210, this);
    m_school->setObjectName("review.school");
    m_school->setToolTip(tr("The school whose bands, variants and level hold"));
    for (const SchoolStandard& s : m_context.data.standards.schools)
        m_school->addItem(QString::fromStdString(s.name), QString::fromStdString(s.id));
    m_yardstick = new QComboBox(this);
    m_yardstick->setObjectName("review.yardstick");
    m_yardstick->setAccessibleName(tr("Judged by"));
    m_yardstick->setToolTip(tr(
        "What the student is measured against: the reference's own values, the school's standard, or both. "
        "Bands that spare knees are always the school's."));
    for (const auto& [text, y] : {std::pair(tr("by reference"), Yardstick::Reference),
                                  {tr("by standard"), Yardstick::Standard},
                                  {tr("by both"), Yardstick::Both}}) {
        const std::string_view name = yardstickName(y);
        m_yardstick->addItem(text, QString::fromUtf8(name.data(), static_cast<qsizetype>(name.size())));
    }
    for (QComboBox* box : {m_school, m_yardstick}) {
        connect(box, &QComboBox::activated, this, &LadderPanel::choose);
        by->addWidget(box, box == m_school);
    }
    return both;
}

void LadderPanel::fill()
{
    const ReviewRow& row = m_review.choices();
    const QSignalBlocker a(m_school), b(m_yardstick);
    m_school->setCurrentIndex(m_school->findData(row.school));
    m_yardstick->setEnabled(row.referenceId.has_value()); // the built-in performer keeps to the standard
    m_yardstick->setCurrentIndex(row.referenceId ? std::max(0, m_yardstick->findData(row.yardstick))
                                                 : m_yardstick->findData("standard"));
}

void LadderPanel::choose()
{
    ReviewRow row = m_review.choices();
    row.school = m_school->currentData().toString();
    if (m_yardstick->isEnabled()) row.yardstick = m_yardstick->currentData().toString();
    m_review.choose(row);
}

} // namespace jl
