#include "app/review/bench/mend_panel.h"
#include "app/review/model/change_command.h"
#include "app/theme/label.h"
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QUndoStack>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

using Tool = MendingView::Tool;

QString hintFor(Tool tool)
{
    switch (tool) {
    case Tool::Points:
        return MendPanel::tr("Drag a joint to where it belongs. Frames nearby follow softly.");
    case Tool::Floor:
        return MendPanel::tr("Set the length, then draw it on the floor in the picture.");
    case Tool::Wall:
        return MendPanel::tr("Draw along the foot of the wall in front of the student or behind.");
    case Tool::None:
        break;
    }
    return {};
}

} // namespace

MendPanel::MendPanel(const Context& context, OpenReview& review, MendingView& view, QWidget* parent)
    : QWidget(parent), m_library(context.library), m_theme(context.theme), m_review(review),
      m_playhead(review.playhead()), m_view(view)
{
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(4);
    rows->addLayout(buildTools());
    rows->addLayout(buildWords());
    connect(&view, &MendingView::pointPlaced, this, &MendPanel::placePoint);
    connect(&view, &MendingView::lineDrawn, this, &MendPanel::drawLine);
    connect(&review, &OpenReview::chosen, this, &MendPanel::showClip);
    connect(&m_playhead, &Playhead::moved, this, &MendPanel::showMoment);
    connect(&m_playhead, &Playhead::loaded, this, &MendPanel::showCamera);
}

QLayout* MendPanel::buildTools()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const std::tuple<Tool, QString, QString, const char*> tools[] = {
        {Tool::Points, tr("joints"), tr("Put joints where they belong ([ and ] choose, arrows move)"),
         "mend.points"},
        {Tool::Floor, tr("floor"), tr("Tell how long something on the floor is"), "mend.floor"},
        {Tool::Wall, tr("wall"), tr("Show where the wall meets the floor: it gives the direction"),
         "mend.wall"}};
    for (std::size_t i = 0; i < m_tools.size(); ++i) {
        const auto& [tool, text, tip, name] = tools[i];
        auto* button = new QPushButton(text, this);
        button->setCheckable(true);
        button->setToolTip(tip);
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, [this, tool = tool] { choose(tool); });
        row->addWidget(button);
        m_tools[i] = button;
    }
    const auto number = [&](const QString& suffix, double low, double high, double step, int decimals,
                            const QString& name) {
        auto* box = new QDoubleSpinBox(this);
        box->setRange(low, high);
        box->setSingleStep(step);
        box->setDecimals(decimals);
        box->setSuffix(suffix);
        box->setKeyboardTracking(false);
        box->setAccessibleName(name);
        return box;
    };
    m_length = number(tr(" m"), 0.1, 30, 0.1, 2, tr("Length on the floor"));
    m_length->setValue(1);
    m_length->setObjectName("mend.length");
    row->addWidget(m_length);
    row->addStretch(1);
    row->addWidget(label(tr("height"), 0.9, QFont::Normal, m_theme.quiet, this));
    constexpr double unknown = 1.19; // m, below everybody
    m_height = number(tr(" m"), unknown, 2.2, 0.01, 2, tr("Height of the student"));
    m_height->setSpecialValueText(tr("not known"));
    m_height->setToolTip(tr("A known height makes every length more certain"));
    m_height->setObjectName("mend.height");
    connect(m_height, &QDoubleSpinBox::valueChanged, this, &MendPanel::keepHeight);
    row->addWidget(m_height);
    m_clear = new QPushButton(tr("as extracted"), this);
    m_clear->setToolTip(tr("Take back everything that was mended in this clip"));
    m_clear->setObjectName("mend.clear");
    connect(m_clear, &QPushButton::clicked, this, [this] { keep({}, tr("as extracted")); });
    row->addWidget(m_clear);
    return row;
}

QLayout* MendPanel::buildWords()
{
    auto* words = new QHBoxLayout;
    m_hint = new ElidedLabel(0.95, QFont::Normal, m_theme.quiet, this);
    m_camera = label({}, 0.95, QFont::Normal, m_theme.quiet, this);
    m_camera->setObjectName("mend.camera");
    words->addWidget(m_hint, 1);
    words->addWidget(m_camera);
    return words;
}

void MendPanel::showClip()
{
    const qint64 clip = m_review.clip().id;
    if (clip != m_clip) m_cameraBefore.reset();
    m_clip = clip;
    auto known = m_library.knowledge(clip);
    if (!known) emit m_review.message(QString::fromStdString(known.error().message()));
    m_known = known ? std::move(*known) : ClipKnowledge{};
    const auto& student = m_review.student();
    const QSignalBlocker quiet(m_height);
    m_height->setEnabled(student.has_value());
    m_height->setValue(student && student->height ? *student->height : m_height->minimum());
    showMoment();
}

void MendPanel::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    choose(m_tool);
}

void MendPanel::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    m_view.setTool(Tool::None);
}

void MendPanel::choose(Tool tool)
{
    m_tool = tool;
    for (std::size_t i = 0; i < m_tools.size(); ++i)
        m_tools[i]->setChecked(static_cast<std::size_t>(tool) == i + 1);
    m_length->setVisible(tool == Tool::Floor);
    m_hint->setText(hintFor(tool));
    m_view.setTool(tool);
    showMoment();
}

/// One point of a joint at a moment: a later one takes its place.
void MendPanel::placePoint(Landmark landmark, const QPointF& pixel)
{
    const ReviewScene* b = m_playhead.scene();
    if (!b) return;
    const Track& track = b->student.track;
    const double time = track.frames[track.nearest(m_playhead.time())].time;
    ClipKnowledge known = m_known;
    std::erase_if(known.repairs, [&](const JointRepair& r) { return isOf(r, landmark, time); });
    known.repairs.push_back({landmark, time, {pixel.x(), pixel.y()}});
    keep(known, tr("put a joint in place"));
}

void MendPanel::drawLine(const QPointF& from, const QPointF& to)
{
    ClipKnowledge known = m_known;
    const Eigen::Vector2d a(from.x(), from.y()), b(to.x(), to.y());
    if (m_tool == Tool::Wall)
        known.hints.wall = std::array{a, b};
    else
        known.hints.spans.push_back({a, b, m_length->value()});
    keep(known, m_tool == Tool::Wall ? tr("show the wall") : tr("tell a length"));
}

void MendPanel::keep(const ClipKnowledge& known, const QString& what)
{
    if (m_review.isReadOnly()) return emit m_review.message(readOnlyWords());
    const auto apply = [this, clip = m_clip](const ClipKnowledge& k) {
        const auto saved = m_library.setKnowledge(clip, k);
        if (!saved) return emit m_review.message(QString::fromStdString(saved.error().message()));
        if (clip == m_clip) m_review.makeAgain();
    };
    m_review.undo().push(new ChangeCommand<ClipKnowledge>(what, m_known, known, apply));
}

void MendPanel::keepHeight(double height)
{
    if (!m_review.student()) return;
    if (m_review.isReadOnly()) return emit m_review.message(readOnlyWords());
    const auto apply = [this, id = m_review.student()->id](const std::optional<double>& h) {
        auto student = m_library.student(id);
        if (!student) return emit m_review.message(tr("This student is no longer in the library."));
        student->height = h;
        m_review.updateStudent(*student);
    };
    const auto now = height > m_height->minimum() ? std::optional(height) : std::nullopt;
    m_review.undo().push(
        new ChangeCommand<std::optional<double>>(tr("height"), m_review.student()->height, now, apply));
}

void MendPanel::showMoment()
{
    const ReviewScene* b = m_playhead.scene();
    if (!b || b->student.track.frames.empty()) return;
    const Track& track = b->student.track;
    m_view.setKnowledge(m_known, track.frames[track.nearest(m_playhead.time())].time);
    m_clear->setEnabled(!m_known.empty());
}

/// How well the camera is known, and how well it was before the last change.
void MendPanel::showCamera()
{
    const ReviewScene* b = m_playhead.scene();
    if (!b) return;
    const CalibratedCamera& camera = b->student.camera;
    const std::pair now(2 * camera.azimuthSpread, 200 * camera.scaleSpread);
    QString text = tr("camera: direction ± %1°, size ± %2 %")
                       .arg(QLocale().toString(now.first, 'f', 1), QLocale().toString(now.second, 'f', 1));
    if (m_cameraBefore && (std::abs(m_cameraBefore->first - now.first) >= 0.1 ||
                           std::abs(m_cameraBefore->second - now.second) >= 0.1))
        text += tr(" (before: %1°, %2 %)")
                    .arg(QLocale().toString(m_cameraBefore->first, 'f', 1),
                         QLocale().toString(m_cameraBefore->second, 'f', 1));
    m_camera->setText(text);
    const std::string leftOut = hintsLeftOut(camera);
    if (!leftOut.empty() && isVisible()) emit m_review.message(QString::fromStdString(leftOut));
    m_cameraBefore = now;
    showMoment();
}

} // namespace jl
