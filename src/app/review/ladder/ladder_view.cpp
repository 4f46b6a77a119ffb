#include "app/review/ladder/ladder_view.h"
#include "app/review/ladder/measure_detail.h"
#include "app/review/ladder/phase_measure_row.h"
#include "app/review/paint/words.h"
#include "app/theme/label.h"
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

/// Whether a value is one to look at.
bool standsOut(Mark mark)
{
    return mark != Mark::Within && mark != Mark::CannotTell;
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
    m_nothingOut = paragraph(tr("Nothing stands out at this moment."), 1.0, QFont::Normal, theme.ink, this);
    m_nothingOut->hide();
    layout->addWidget(m_nothingOut);
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
    return m_open == kTiming || m_onlyOut ? std::nullopt : std::optional(static_cast<Rung>(m_open));
}

void LadderView::openPart(std::size_t place)
{
    m_open = place;
    if (std::exchange(m_onlyOut, false)) {
        refresh(); // rows that were left out come back
        emit onlyOutChanged(false);
    }
    showRows();
    emit rungOpened();
}

void LadderView::showOnlyOut(bool only)
{
    if (only == m_onlyOut) return;
    if (!only) return openPart(m_open);
    m_onlyOut = true;
    showRows();
    emit onlyOutChanged(true);
}

/// Lets be seen what is open, or what stands out.
void LadderView::showRows()
{
    int out = 0;
    for (std::size_t i = 0; i < m_rungs.size(); ++i) {
        const RungPart& part = m_rungs[i];
        const bool open = m_onlyOut ? part.out > 0 : m_open == i;
        part.body->setVisible(open);
        part.header->setVisible(!m_onlyOut || open);
        static_cast<QAbstractButton*>(part.header)->setChecked(open);
        for (MeasureRow* row : part.rows)
            row->setVisible(!m_onlyOut || standsOut(row->mark()));
        out += part.out;
    }
    for (PhaseMeasureRow* row : m_timingRows)
        if (m_onlyOut) row->setVisible(standsOut(row->mark()));
    m_nothingOut->setVisible(m_onlyOut && out == 0);
    if (m_onlyOut) m_detail->setVisible(standsOut(markOfChosen()));
}

/// The mark of the chosen measure's row.
Mark LadderView::markOfChosen() const
{
    for (const RungPart& part : m_rungs)
        for (const MeasureRow* row : part.rows)
            if (row->measure() == m_playhead.measure()) return row->mark();
    return Mark::CannotTell;
}

void LadderView::chooseMeasure()
{
    const Rung rung = measureInfo(m_playhead.measure()).rung;
    const bool listed = m_onlyOut && standsOut(markOfChosen());
    if (!listed && rung != openedRung()) openRung(rung);
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
    if (m_onlyOut) showRows();
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
    m_rungs[kTiming].out = static_cast<int>(std::count_if(marks.begin(), marks.end(), standsOut));
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
        part.out = static_cast<int>(std::count_if(marks.begin(), marks.end(), standsOut));
        static_cast<RungHeader*>(part.header)->setMarks(std::move(marks));
    }
    m_detail->refresh();
    if (m_onlyOut) showRows();
}

} // namespace jl
