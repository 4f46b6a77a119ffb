#include "app/review/ladder_view.h"
#include "app/review/words.h"
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
    RungHeader(Rung rung, const Theme& theme, QWidget* parent) : QAbstractButton(parent), m_theme(theme)
    {
        setText(rungName(rung));
        setFixedHeight(30);
        setCheckable(true);
        setCursor(Qt::PointingHandCursor);
        setFocusPolicy(Qt::StrongFocus);
        setShortcut(QKeySequence(static_cast<Qt::Key>(Qt::Key_1 + static_cast<int>(rung))));
        setToolTip(LadderView::tr("%1 (key %2)").arg(text()).arg(1 + static_cast<int>(rung)));
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
        for (auto m = m_marks.rbegin(); m != m_marks.rend() && x > width() / 3; ++m) {
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
    for (int i = kRungCount - 1; i >= 0; --i) { // the ground is at the bottom
        const auto rung = static_cast<Rung>(i);
        RungPart& part = m_rungs[static_cast<std::size_t>(i)];
        auto* header = new RungHeader(rung, theme, this);
        part.header = header;
        connect(header, &QAbstractButton::clicked, this, [this, rung] { openRung(rung); });
        part.body = new QWidget(this);
        auto* rows = new QVBoxLayout(part.body);
        rows->setContentsMargins(0, 0, 0, 4);
        rows->setSpacing(0);
        for (const MeasureInfo& info : allMeasures()) {
            if (info.rung != rung) continue;
            auto* row = new MeasureRow(info.measure, theme, part.body);
            connect(row, &QAbstractButton::clicked, this, [this, m = info.measure] { m_playhead.choose(m); });
            rows->addWidget(row);
            part.rows.push_back(row);
        }
        layout->addWidget(header);
        layout->addWidget(part.body);
    }
    layout->addStretch(1);
    connect(&playhead, &Playhead::moved, this, &LadderView::refresh);
    connect(&playhead, &Playhead::loaded, this, &LadderView::refresh);
    connect(&playhead, &Playhead::measureChosen, this, &LadderView::chooseMeasure);
    openRung(m_open);
}

void LadderView::openRung(Rung rung)
{
    m_open = rung;
    for (std::size_t i = 0; i < kRungCount; ++i) {
        const bool open = static_cast<std::size_t>(rung) == i;
        m_rungs[i].body->setVisible(open);
        static_cast<QAbstractButton*>(m_rungs[i].header)->setChecked(open);
    }
    emit rungOpened();
}

void LadderView::chooseMeasure()
{
    const Rung rung = measureInfo(m_playhead.measure()).rung;
    if (rung != m_open) openRung(rung);
    for (RungPart& part : m_rungs)
        for (MeasureRow* row : part.rows)
            row->setChecked(row->measure() == m_playhead.measure());
}

void LadderView::refresh()
{
    const ReviewedPhase* phase = m_playhead.currentPhase();
    if (!phase) return;
    const Review& review = m_playhead.bundle()->review;
    const auto [i, k] = m_playhead.phase();
    for (RungPart& part : m_rungs) {
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
}

} // namespace jl
