#include "app/review/slip_view.h"
#include "app/theme/mark.h"
#include "review/cautions.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace jl
{
namespace
{

/// A status shape as a small widget.
class MarkLabel : public QWidget
{
public:
    MarkLabel(Mark mark, const Theme& theme, QWidget* parent) : QWidget(parent), m_mark(mark), m_theme(theme)
    {
        setFixedSize(18, 18);
        setToolTip(markName(mark));
        setAccessibleName(markName(mark));
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        drawMark(p, {9, 9}, 14, m_mark, m_theme);
    }

private:
    Mark m_mark;
    const Theme& m_theme;
};

QLabel* words(const QString& text, double size, int weight, const QColor& colour, QWidget* parent)
{
    auto* label = new QLabel(text, parent);
    label->setWordWrap(true);
    label->setFont(textFont(size, weight));
    QPalette palette = label->palette();
    palette.setColor(QPalette::WindowText, colour);
    label->setPalette(palette);
    return label;
}

} // namespace

SlipView::SlipView(Playhead& playhead, Library& library, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_library(library), m_theme(theme)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    m_title = words({}, 1.1, QFont::DemiBold, theme.ink, this);
    m_title->setObjectName("slip.title");
    layout->addWidget(m_title);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* inside = new QWidget(scroll);
    m_cards = new QVBoxLayout(inside);
    m_cards->setContentsMargins(0, 0, 4, 0);
    m_cards->setSpacing(8);
    scroll->setWidget(inside);
    layout->addWidget(scroll, 1);
    connect(&playhead, &Playhead::loaded, this, &SlipView::rebuild);
}

void SlipView::setReview(qint64 review, const QString& studentName)
{
    m_review = review;
    m_name = studentName;
    rebuild();
}

void SlipView::decide(const QString& fault, Decision decision)
{
    // Choosing the same again takes it back.
    if (m_library.decision(m_review, fault) == decision) decision = Decision::Proposed;
    const auto saved = m_library.decide(m_review, fault, decision);
    if (!saved) emit message(QString::fromStdString(saved.error().message()));
    // Saved at once; the cards are made anew once the click that led here is over.
    QMetaObject::invokeMethod(this, &SlipView::rebuild, Qt::QueuedConnection);
}

QWidget* SlipView::card(const Correction& c)
{
    auto* card = new QWidget(this);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(2, 4, 2, 4);
    layout->setSpacing(3);
    const QString fault = QString::fromStdString(c.fault);
    const Decision decided = m_library.decision(m_review, fault);
    const bool quiet = decided == Decision::SetAside || decided == Decision::Parked;

    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    head->addWidget(new MarkLabel(c.severity == Severity::Safety ? Mark::Safety : Mark::Fault, m_theme, card),
                    0, Qt::AlignTop);
    head->addWidget(
        words(QString::fromStdString(c.title), 1.0, QFont::Bold, quiet ? m_theme.quiet : m_theme.ink, card),
        1);
    layout->addLayout(head);
    layout->addWidget(words(QString::fromStdString(c.chainText), 0.9, QFont::Normal, m_theme.indigo, card));
    if (!quiet) {
        layout->addWidget(words(QString::fromStdString(c.cue), 1.0, QFont::Normal, m_theme.ink, card));
        layout->addWidget(words(QString::fromStdString(c.reason), 0.9, QFont::Normal, m_theme.quiet, card));
        layout->addWidget(words(tr("Drill: %1").arg(QString::fromStdString(c.drill)), 0.9, QFont::Normal,
                                m_theme.quiet, card));
    }
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    const std::pair<Decision, QString> choices[] = {{Decision::Accepted, tr("accept")},
                                                    {Decision::Parked, tr("park")},
                                                    {Decision::SetAside, tr("set aside")}};
    const char* const names[] = {"accept", "park", "set-aside"};
    for (int i = 0; i < 3; ++i) {
        auto* button = new QPushButton(choices[i].second, card);
        button->setCheckable(true);
        button->setChecked(decided == choices[i].first);
        if (button->isChecked() && i == 0) button->setText(tr("accepted"));
        if (button->isChecked() && i == 1) button->setText(tr("parked"));
        button->setObjectName(QString("slip.%1.%2").arg(fault, names[i]));
        button->setAccessibleName(tr("%1: %2").arg(choices[i].second, QString::fromStdString(c.title)));
        connect(button, &QPushButton::clicked, this,
                [this, fault, decision = choices[i].first] { decide(fault, decision); });
        buttons->addWidget(button);
    }
    auto* show = new QPushButton(tr("show"), card);
    show->setToolTip(tr("Go to its clearest moment"));
    show->setAccessibleName(tr("Show: %1").arg(QString::fromStdString(c.title)));
    connect(show, &QPushButton::clicked, this, [this, c] {
        for (const Finding& f : m_playhead.bundle()->review.findings)
            if (f.fault == c.fault && f.measure) m_playhead.choose(*f.measure);
        m_playhead.moveTo(c.time);
    });
    buttons->addStretch(1);
    buttons->addWidget(show);
    layout->addLayout(buttons);
    return card;
}

void SlipView::rebuild()
{
    while (QLayoutItem* item = m_cards->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    if (!m_playhead.bundle()) return;
    const Review& review = m_playhead.bundle()->review;
    int accepted = 0;
    for (const Correction& c : review.teach)
        accepted += m_library.decision(m_review, QString::fromStdString(c.fault)) == Decision::Accepted;
    m_title->setText(
        review.teach.empty()
            ? tr("Slip for %1").arg(m_name)
            : tr("Slip for %1 · %2 of %3 accepted").arg(m_name).arg(accepted).arg(review.teach.size()));
    if (review.teach.empty())
        m_cards->addWidget(words(
            tr("Nothing to correct can be claimed from this view. A clip from another side may show more."),
            1.0, QFont::Normal, m_theme.ink, this));
    for (const Correction& c : review.teach) {
        m_cards->addWidget(card(c));
        auto* rule = new QFrame(this);
        rule->setFrameShape(QFrame::HLine);
        QPalette palette = rule->palette();
        palette.setColor(QPalette::WindowText, m_theme.line);
        rule->setPalette(palette);
        m_cards->addWidget(rule);
    }
    QString small;
    for (const std::string& note : review.notes)
        small += QString::fromStdString(note) + "\n";
    for (const std::string& line : cautions())
        small += QString::fromStdString(line) + " ";
    auto* caution = words(small.trimmed(), 0.85, QFont::Normal, m_theme.quiet, this);
    caution->setObjectName("slip.cautions");
    m_cards->addWidget(caution);
    m_cards->addStretch(1);
}

} // namespace jl
