#include "app/review/ladder/ladder_view.h"
#include "app/review/ladder/measure_detail.h"
#include "app/review/ladder/phase_measure_row.h"
#include "app/review/paint/words.h"
#include <QApplication>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

namespace jl
{
namespace
{

QString rungName(Rung rung)
{
    switch (rung) {
    case Rung::Feet:
        return LadderView::tr("Feet");
    case Rung::Weight:
        return LadderView::tr("Weight");
    case Rung::Knees:
        return LadderView::tr("Knees");
    case Rung::Hips:
        return LadderView::tr("Hips");
    case Rung::Trunk:
        return LadderView::tr("Trunk");
    case Rung::Head:
        return QCoreApplication::translate("Ladder", "Head");
    case Rung::Arms:
        return LadderView::tr("Arms");
    }
    return {};
}

/// The head of a rung: its name, the marks of what stands out, and how many of its measures are seen.
class RungHeader : public QAbstractButton
{
public:
    RungHeader(const QString& name, int number, const Theme& theme, QWidget* parent)
        : QAbstractButton(parent), m_theme(theme)
    {
        setText(name);
        setFixedHeight(26);
        setCheckable(true);
        setCursor(Qt::PointingHandCursor);
        setFocusPolicy(Qt::StrongFocus);
        setShortcut(QKeySequence(static_cast<Qt::Key>(Qt::Key_0 + number)));
        setToolTip(LadderView::tr("%1 (key %2)").arg(text()).arg(number));
        setAccessibleName(text());
        setObjectName("rung." + text().toLower());
    }
    void setMarks(std::vector<Mark> marks)
    {
        m_marks = std::move(marks);
        Mark worst = m_marks.empty() ? Mark::CannotTell : m_marks.front();
        for (Mark m : m_marks)
            worst = worse(worst, m);
        m_seen = std::count_if(m_marks.begin(), m_marks.end(), [](Mark m) { return m != Mark::CannotTell; });
        setAccessibleDescription(
            LadderView::tr("%1, %2 of %3 seen").arg(markName(worst)).arg(m_seen).arg(m_marks.size()));
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        if (underMouse() && !isChecked()) {
            p.setPen(Qt::NoPen);
            p.setBrush(m_theme.chosen);
            p.drawRoundedRect(rect(), 8, 8);
        }
        if (hasFocus()) {
            p.setPen(QPen(m_theme.indigo, 1.5));
            p.setBrush(Qt::NoBrush);
            p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
        }
        p.setPen(m_theme.ink);
        p.setFont(textFont(1.05, isChecked() ? QFont::Bold : QFont::DemiBold));
        p.drawText(QRectF(rect()).adjusted(10, 0, 0, 0), Qt::AlignVCenter, text());
        p.setFont(textFont(0.85));
        p.setPen(m_theme.quiet);
        p.drawText(QRectF(rect()).adjusted(0, 0, -10, 0), Qt::AlignVCenter | Qt::AlignRight,
                   LadderView::tr("%1 of %2 seen").arg(m_seen).arg(m_marks.size()));
        double x = width() - 100;
        for (auto m = m_marks.rbegin(); m != m_marks.rend() && x > width() / 3.0; ++m) {
            if (*m == Mark::Within || *m == Mark::CannotTell) continue;
            drawMark(p, {x, height() / 2.0}, 13, *m, m_theme);
            x -= 20;
        }
    }

private:
    const Theme& m_theme;
    std::vector<Mark> m_marks;
    std::ptrdiff_t m_seen = 0;
};

} // namespace

LadderView::LadderView(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_theme(theme)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    QWidget* timing = addPart(kTiming, tr("Timing"));
    for (const PhaseMeasureInfo& info : allPhaseMeasures()) {
        m_timingRows.push_back(new PhaseMeasureRow(info.measure, theme, timing));
        timing->layout()->addWidget(m_timingRows.back());
    }
    for (std::size_t i = kRungCount; i-- > 0;) { // the ground is at the bottom
        QWidget* body = addPart(i, rungName(static_cast<Rung>(i)));
        for (const MeasureInfo& info : allMeasures()) {
            if (info.rung != static_cast<Rung>(i)) continue;
            auto* row = new MeasureRow(info.measure, theme, body);
            connect(row, &QAbstractButton::clicked, this, [this, m = info.measure] { m_playhead.choose(m); });
            body->layout()->addWidget(row);
            m_rungs[i].rows.push_back(row);
        }
    }
    layout->addStretch(1);
    m_detail = new MeasureDetail(playhead, theme, this);
    m_detail->hide();
    connect(&playhead, &Playhead::moved, m_detail, &MeasureDetail::refresh);
    connect(&playhead, &Playhead::phaseChanged, this, &LadderView::refresh);
    connect(&playhead, &Playhead::loaded, this, &LadderView::refresh);
    connect(&playhead, &Playhead::measureChosen, this, &LadderView::chooseMeasure);
    openPart(m_open);
}

/// A header and an empty body under those that are there.
QWidget* LadderView::addPart(std::size_t place, const QString& name)
{
    RungPart& part = m_rungs[place];
    part.header = new RungHeader(name, static_cast<int>(place) + 1, m_theme, this);
    connect(static_cast<QAbstractButton*>(part.header), &QAbstractButton::clicked, this,
            [this, place] { openPart(place); });
    part.body = new QWidget(this);
    auto* rows = new QVBoxLayout(part.body);
    rows->setContentsMargins(0, 0, 0, 4);
    rows->setSpacing(0);
    layout()->addWidget(part.header);
    layout()->addWidget(part.body);
    return part.body;
}

void LadderView::openRung(Rung rung)
{
    openPart(static_cast<std::size_t>(rung));
}

void LadderView::openTiming()
{
    openPart(kTiming);
}

std::optional<Rung> LadderView::openedRung() const
{
    return m_open == kTiming ? std::nullopt : std::optional(static_cast<Rung>(m_open));
}

void LadderView::openPart(std::size_t place)
{
    m_open = place;
    for (std::size_t i = 0; i < m_rungs.size(); ++i) {
        const bool open = place == i;
        m_rungs[i].body->setVisible(open);
        static_cast<QAbstractButton*>(m_rungs[i].header)->setChecked(open);
    }
    emit rungOpened();
}

void LadderView::chooseMeasure()
{
    const Rung rung = measureInfo(m_playhead.measure()).rung;
    if (rung != openedRung()) openRung(rung);
    for (RungPart& part : m_rungs)
        for (MeasureRow* row : part.rows)
            row->setChecked(row->measure() == m_playhead.measure());
    placeDetail();
}

/// Moves what lies behind the chosen value under its row.
void LadderView::placeDetail()
{
    for (RungPart& part : m_rungs)
        for (std::size_t i = 0; i < part.rows.size(); ++i) {
            if (part.rows[i]->measure() != m_playhead.measure()) continue;
            auto* rows = static_cast<QVBoxLayout*>(part.body->layout());
            if (m_detail->parentWidget() != part.body || rows->indexOf(m_detail) != static_cast<int>(i) + 1) {
                if (auto* before = m_detail->parentWidget()->layout()) before->removeWidget(m_detail);
                rows->insertWidget(static_cast<int>(i) + 1, m_detail);
            }
        }
    m_detail->refresh();
    emit detailPlaced(m_detail);
}

void LadderView::refreshTiming()
{
    const ReviewedPhase& phase = *m_playhead.currentPhase();
    const auto [i, k] = m_playhead.phase();
    std::vector<Mark> marks;
    for (PhaseMeasureRow* row : m_timingRows) {
        JudgedWhole value;
        if (!phase.whole.empty()) value = phase.whole[static_cast<std::size_t>(row->measure())];
        const Mark mark = markOf(m_playhead.scene()->review, i, k, value);
        row->setValue(value, mark);
        if (value.value.isGiven()) marks.push_back(mark);
    }
    static_cast<RungHeader*>(m_rungs[kTiming].header)->setMarks(std::move(marks));
}

void LadderView::refresh()
{
    const ReviewedPhase* phase = m_playhead.currentPhase();
    if (!phase) return;
    const Review& review = m_playhead.scene()->review;
    const auto [i, k] = m_playhead.phase();
    refreshTiming();
    for (std::size_t r = 0; r < kRungCount; ++r) {
        RungPart& part = m_rungs[r];
        std::vector<Mark> marks;
        for (MeasureRow* row : part.rows) {
            JudgedValue value;
            if (!phase->values.empty()) value = phase->values[static_cast<std::size_t>(row->measure())];
            const Mark mark = markOf(review, i, k, value);
            row->setValue(value, mark);
            marks.push_back(mark);
        }
        static_cast<RungHeader*>(part.header)->setMarks(std::move(marks));
    }
    m_detail->refresh();
}

} // namespace jl
