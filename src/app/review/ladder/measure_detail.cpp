#include "app/review/ladder/measure_detail.h"
#include "app/review/ladder/history_spark.h"
#include "app/theme/label.h"
#include "review/derived_values.h"
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace jl
{

/// The curves.
class MeasureDetail::Course : public QWidget
{
public:
    Course(const MeasureDetail& detail) : QWidget(const_cast<MeasureDetail*>(&detail)), m_detail(detail)
    {
        setFixedHeight(84);
    }

    std::optional<Band> band;
    Measure measure = Measure::KneeLeadPastToe;
    double now = 0; ///< share of the phase

protected:
    void paintEvent(QPaintEvent*) override
    {
        const MeasureCourse &own = m_detail.m_courses->student, &other = m_detail.m_courses->reference;
        const Theme& t = m_detail.m_theme;
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        double low = 1e9, high = -1e9;
        const auto take = [&](double v) {
            if (measure == Measure::WeightLead) v = std::clamp(v, 0.0, 100.0); // a share of the weight
            low = std::min(low, v);
            high = std::max(high, v);
        };
        for (const auto* course : {&own, &other})
            for (const auto& point : course->points) {
                take(point.value - point.u);
                take(point.value + point.u);
            }
        if (low > high) {
            p.setPen(t.quiet);
            p.drawText(rect(), Qt::AlignCenter, MeasureDetail::tr("not seen in this phase"));
            return;
        }
        if (band) {
            take(band->low);
            take(band->high);
        }
        const double room = std::max(1e-3, 0.08 * (high - low));
        low -= room;
        high += room;
        const QRectF area(2, 2, width() - 4.0, height() - 4.0);
        const auto at = [&](double share, double value) {
            return QPointF(area.left() + std::clamp(share, 0.0, 1.0) * area.width(),
                           area.bottom() - (value - low) / (high - low) * area.height());
        };
        if (band) p.fillRect(QRectF(at(0, band->high), at(1, band->low)), t.band);
        p.setPen(QPen(t.line, 1));
        p.drawLine(at(now, low), at(now, high));
        drawSpread(p, own, at);
        drawLine(p, other, at, QPen(t.indigo, 1.5, Qt::DashLine));
        drawLine(p, own, at, QPen(t.ink, 2));
        p.setPen(t.quiet);
        p.setFont(textFont(0.85));
        QColor paper = t.ground; // so that no line strikes a number through
        paper.setAlpha(215);
        for (const auto& [edge, value] :
             {std::pair(Qt::AlignTop, high - room), {Qt::AlignBottom, low + room}}) {
            const int place = static_cast<int>(Qt::AlignLeft | edge);
            const QString text = valueText(measure, value);
            p.fillRect(QFontMetricsF(p.font()).boundingRect(area, place, text).adjusted(0, 0, 3, 0), paper);
            p.drawText(area, place, text);
        }
    }

private:
    template <class At>
    static void drawLine(QPainter& p, const MeasureCourse& course, At at, const QPen& pen)
    {
        QPolygonF line;
        for (const auto& point : course.points)
            line << at(point.share, point.value);
        p.setPen(pen);
        p.drawPolyline(line);
    }

    /// Two standard uncertainties on either side.
    template <class At>
    void drawSpread(QPainter& p, const MeasureCourse& course, At at) const
    {
        QPolygonF outline;
        for (const auto& point : course.points)
            outline << at(point.share, point.value + 2 * point.u);
        for (auto point = course.points.rbegin(); point != course.points.rend(); ++point)
            outline << at(point->share, point->value - 2 * point->u);
        QColor wash = m_detail.m_theme.ink;
        wash.setAlpha(26);
        p.setPen(Qt::NoPen);
        p.setBrush(wash);
        p.setClipRect(rect());
        p.drawPolygon(outline);
    }

    const MeasureDetail& m_detail;
};

MeasureDetail::MeasureDetail(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_theme(theme)
{
    setObjectName("ladder.detail");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 2, 10, 8);
    layout->setSpacing(4);
    m_course = new Course(*this);
    m_words = paragraph({}, 0.95, QFont::Normal, theme.ink, this);
    m_words->setObjectName("ladder.detail.words");
    m_words->hide();
    auto* what = new QPushButton(tr("what is this?"), this);
    what->setObjectName("ladder.detail.more");
    what->setAccessibleName(tr("What the chosen measure is, and how it was measured"));
    what->setCheckable(true);
    what->setFlat(true);
    connect(what, &QPushButton::toggled, m_words, &QWidget::setVisible);
    m_history = new HistorySpark(theme, this);
    layout->addWidget(m_course);
    layout->addWidget(m_history);
    layout->addWidget(what, 0, Qt::AlignLeft);
    layout->addWidget(m_words);
}

QString MeasureDetail::words(const JudgedValue& v, const ReviewedPhase& phase) const
{
    const MeasureInfo& info = measureInfo(m_playhead.measure());
    const auto text = [](std::string_view s) {
        return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
    };
    QStringList lines{text(info.definition) + " " + tr("Zero and plane: %1.").arg(text(info.frame))};
    if (v.status != Status::Unseen)
        lines << tr("Read at %1, %2, %3; ± is two standard uncertainties.")
                     .arg(timeText(phase.student.time), viewWords(v.value.view), planeWords(v.value.plane));
    QStringList also;
    for (const DerivedValue& d : derivedValues(phase, m_playhead.scene()->review.own))
        if (d.value.seen() && d.value.measure == info.measure) also << derivedText(d);
    also.removeAll(QString());
    if (!also.isEmpty()) lines << tr("That is %1.").arg(also.join(", "));
    if (info.measure == Measure::PelvisHeight) lines << heightWords();
    if (v.capped) lines << tr("What is asked is set by the student's limits.");
    const auto& progress = m_playhead.scene()->progress;
    for (const ValueChange& c : progress ? progress->values : std::vector<ValueChange>{}) {
        if (c.posture != m_playhead.phase().first || c.phase != phase.student.phase || c.measure != info.key)
            continue;
        const QString was = valueText(m_playhead.measure(), c.before);
        lines << (c.change == Change::Better  ? tr("Last time %1: a real step nearer.").arg(was)
                  : c.change == Change::Worse ? tr("Last time %1: further off now.").arg(was)
                  : c.change == Change::Same  ? tr("Last time %1: the same within measuring error.").arg(was)
                                              : tr("Last time seen from another side."));
    }
    return lines.join(" ");
}

/// How the height has changed since the phases one would compare it with.
QStringList MeasureDetail::heightWords() const
{
    QStringList lines;
    const Review& review = m_playhead.scene()->review;
    const auto [posture, phase] = m_playhead.phase();
    for (const HeightChange& h : heightChanges(review, posture, phase))
        lines << (h.value > 0 ? tr("%1 ± %2 % higher than in \"%3\".")
                              : tr("%1 ± %2 % lower than in \"%3\"."))
                     .arg(QLocale().toString(std::abs(h.value), 'f', 1), QLocale().toString(2 * h.u, 'f', 1),
                          phaseTitle(review, h.posture, h.phase));
    return lines;
}

/// What was seen of the measure in earlier lessons, and now.
void MeasureDetail::showHistory(const JudgedValue& value, const ReviewedPhase& phase)
{
    std::vector<HistorySpark::Lesson> lessons;
    if (value.status != Status::Unseen) {
        const std::string measure(measureInfo(m_playhead.measure()).key);
        for (const ReviewRecord::Value& v :
             historyOf(m_playhead.scene()->earlier, m_playhead.phase().first, phase.student.phase, measure,
                       viewName(value.value.view)))
            lessons.push_back({v.value, v.u});
        lessons.push_back({value.value.value, value.value.u});
    }
    m_history->setLessons(m_playhead.measure(), std::move(lessons), value.band);
}

const MeasureDetail::Courses& MeasureDetail::coursesOf(const Shown& shown, const FoundPhase& phase)
{
    const auto known = m_known.find(shown);
    if (known != m_known.end()) return known->second;
    const ReviewScene& b = *m_playhead.scene();
    const auto [posture, k, m] = shown;
    const JudgedValue& value =
        b.review.postures[posture].phases[k].values[static_cast<std::size_t>(m)]; // at the arrival
    const bool fromBoth = value.value.view == View::Both && b.together && b.second;
    const double from = b.referenceTimeAt(phase.begin), to = b.referenceTimeAt(phase.time);
    Courses courses;
    courses.student = fromBoth ? measureCourse(*b.together, b.student, *b.second, m, phase.begin, phase.time)
                               : measureCourse(b.student, m, phase.begin, phase.time);
    courses.reference = b.reference
                            ? measureCourse(*b.reference, m, from, to)
                            : measureCourse(b.student.model, m, b.student.profile.heightOrUsual(), from, to);
    return m_known.emplace(shown, std::move(courses)).first->second;
}

void MeasureDetail::refresh()
{
    const ReviewScene* b = m_playhead.scene();
    const ReviewedPhase* phase = m_playhead.currentPhase();
    const bool any = b && phase && !phase->values.empty();
    setVisible(any);
    if (!any) return;
    const auto [i, k] = m_playhead.phase();
    const Measure m = m_playhead.measure();
    const JudgedValue& value = phase->values[static_cast<std::size_t>(m)];
    const double begin = phase->student.begin, end = phase->student.time;
    if (m_scene.lock().get() != b) {
        m_known.clear();
        m_shown.reset();
        m_scene = m_playhead.sharedScene();
    }
    if (m_shown != Shown(i, k, m) || m_lengths != shownLengths()) {
        m_shown = Shown(i, k, m);
        m_lengths = shownLengths();
        m_courses = &coursesOf(*m_shown, phase->student);
        m_words->setText(words(value, *phase));
        showHistory(value, *phase);
        m_course->measure = m;
        m_course->band = value.band;
        m_course->setAccessibleName(tr("Course over the phase"));
    }
    m_course->now = (m_playhead.time() - begin) / std::max(1e-6, end - begin);
    m_course->update();
}

} // namespace jl
