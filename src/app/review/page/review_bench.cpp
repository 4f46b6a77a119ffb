#include "app/jobs/form_doubt.h"
#include "app/review/bench/mend_panel.h"
#include "app/review/page/review_page.h"
#include "app/review/page/sound_button.h"
#include "app/review/paint/words.h"
#include "app/review/slip/slip_view.h"
#include "app/theme/mark.h"
#include "media/preview.h"
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QUndoStack>
#include <filesystem>
#include <utility>

// What a review shows on its bench: the pictures of both, and what is drawn over them.

namespace jl
{
namespace
{

constexpr int kFrameHeight = 1080; ///< of the pictures on the bench, at most

/// Eighths of a turn on the floor under a body in a camera's pictures, from a heading (deg) on.
std::vector<QLineF> fanUnder(const BodyPoints& body, const Camera& camera, const Eigen::Vector2d& shift,
                             double heading)
{
    constexpr double radius = 0.55; // m
    Eigen::Vector3d middle = 0.5 * (body[index(Landmark::LeftAnkle)] + body[index(Landmark::RightAnkle)]);
    middle.z() = 0;
    const auto pixel = [&](const Eigen::Vector3d& p) {
        const Eigen::Vector2d at = camera.project(p) + shift;
        return QPointF(at.x(), at.y());
    };
    constexpr int directions = 8;
    std::vector<QLineF> fan;
    fan.reserve(directions);
    for (int i = 0; i < directions; ++i)
        fan.emplace_back(pixel(middle), pixel(middle + radius * forwardOf(heading + 45 * i)));
    return fan;
}

} // namespace

/// The reference on the student's feet as the student's camera would see it.
std::optional<BodyFrame> ReviewPage::laidOver() const
{
    if (m_bench != Bench::Over) return {};
    const ReviewBundle& b = *m_playhead.bundle();
    const BodyPoints points = b.referenceOverAt(m_playhead.time());
    BodyFrame steady;
    const BodyFrame& student = b.student.track.frames[b.student.track.nearest(m_playhead.time())];
    steady.seen = student.seen;
    steady.cameraShift = student.cameraShift;
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        steady.point[i] = b.student.camera.camera.project(points[i]);
    return asFilmed(steady);
}

/// A clip's pictures, with a preview that is made in the background.
std::unique_ptr<FrameFeed> ReviewPage::feedOf(const ClipRow& clip, const Track& track)
{
    const std::string file = clip.file.toStdString();
    const std::string preview = m_pictures.want(
        m_context.library.previewOf(clip), [file](const std::string& path, const Progress& progress) {
            auto written = writePreview(file, path, kPreviewHeight, progress);
            std::error_code gone; // a clip that was removed meanwhile leaves nothing behind
            if (!std::filesystem::exists(file, gone)) std::filesystem::remove(path, gone);
            return written;
        });
    return std::make_unique<FrameFeed>([=] { return videoSource(file, kFrameHeight, preview); },
                                       track.framesPerSecond);
}

void ReviewPage::show(const Opened& made)
{
    const auto& bundle = made.bundle;
    m_empty->hide();
    m_content->show();
    const bool hasSecond = bundle->second.has_value();
    m_otherView->setVisible(hasSecond);
    if (!hasSecond) m_otherView->setChecked(false);
    const auto reference = m_row.referenceId ? m_context.library.clip(*m_row.referenceId) : std::nullopt;
    if (bundle->reference && reference) {
        const Track& other = bundle->reference->track;
        if (std::exchange(m_referenceSource, reference->file) != reference->file)
            m_referenceView->setSource(feedOf(*reference, other), &other, other.width, other.height);
    } else if (!made.performer.track.frames.empty() &&
               std::exchange(m_referenceSource, made.performer.name) != made.performer.name) {
        m_performer = made.performer;
        const std::string path = m_pictures.want(
            m_context.library.folder() + "/cache/" + m_performer.name + ".mp4", m_performer.make);
        const Track& film = m_performer.track;
        m_referenceView->setSource(
            std::make_unique<FrameFeed>(m_performer.source(path), film.framesPerSecond), &film, film.width,
            film.height);
    }
    const auto kept = m_context.library.saveRecord(m_row.id, recordOf(bundle->review));
    if (!kept) emit message(QString::fromStdString(kept.error().message()));
    const bool another = m_shownClip != m_clip->id;
    if (another) m_undo->clear();
    m_shownClip = m_clip->id;
    m_playhead.setBundle(bundle, another ? Playhead::Place::First : Playhead::Place::Kept);
    showStudent();
    m_sound->setClip(made.sound ? m_clip->file : QString());
    m_slip->setReview(m_row.id, m_name->text());
    m_formDoubt->ask(bundle);
    emit opened(m_clip->id);
}

bool ReviewPage::showsSecond() const
{
    // The choice may be gone while the review without it is still being made.
    return m_otherView->isChecked() && m_row.secondId && m_playhead.bundle() && m_playhead.bundle()->second;
}

/// Puts the student's clip, or the second view of it, on the bench.
void ReviewPage::showStudent()
{
    if (!m_playhead.bundle()) return;
    const bool second = showsSecond();
    const auto clip = second ? m_context.library.clip(*m_row.secondId) : m_clip;
    const Track& track = second ? m_playhead.bundle()->second->track : m_playhead.bundle()->student.track;
    // What was only measured anew keeps its pictures, and how near one had come to them.
    if (std::exchange(m_studentSource, clip->file) != clip->file)
        m_studentView->setSource(feedOf(*clip, track), &track, track.width, track.height);
    askForPictures();
    showMoment();
}

/// Eighths of a turn on the floor under a body as its camera sees them, the posture's direction first.
std::vector<QLineF> ReviewPage::floorFan(bool reference, double time) const
{
    const ReviewBundle& b = *m_playhead.bundle();
    if (showsSecond() && !reference) return {};
    if (reference && !b.reference && !m_performer.bodyAt) return {};
    if (reference && !b.reference)
        return fanUnder(m_performer.bodyAt(time), m_performer.camera, Eigen::Vector2d::Zero(),
                        b.student.model.phaseAt(time).heading);
    const ClipReading& clip = reference ? *b.reference : b.student;
    const BodyFrame& frame = clip.track.frames[clip.track.nearest(time)];
    if (!frame.seen) return {};
    const MomentPrior prior = clip.priorAt(time);
    return fanUnder(clip.reader->place(frame, prior), clip.camera.camera, frame.cameraShift, prior.heading);
}

/// Points are put right in the student's own first view; figures have none.
void ReviewPage::mend(bool mending)
{
    if (mending && m_bench == Bench::Figure) setBench(Bench::Beside);
    if (mending) m_otherView->setChecked(false);
    m_otherView->setEnabled(!mending);
    m_mendPanel->setVisible(mending);
    if (mending) m_studentView->setFocus();
}

void ReviewPage::updateOverlay(bool reference)
{
    const ReviewBundle& b = *m_playhead.bundle();
    const bool second = !reference && showsSecond();
    const double time = reference ? m_playhead.referenceTime()
                        : second  ? b.secondTimeAt(m_playhead.time())
                                  : m_playhead.time();
    const Track& track = second        ? b.second->track
                         : !reference  ? b.student.track
                         : b.reference ? b.reference->track
                                       : m_performer.track;
    const auto [i, k] = m_playhead.phase();
    const ReviewedPhase* phase = m_playhead.currentPhase();
    PictureView::Overlay o;
    if (!track.frames.empty()) o.body = asFilmed(track.frames[track.nearest(time)]);
    o.lead = !reference    ? b.student.leadAt(m_playhead.time())
             : b.reference ? b.reference->leadAt(time)
                           : b.student.model.phaseAt(time).lead;
    o.leadShare = reference ? b.referenceLeadShareAt(time) : b.leadShareAt(m_playhead.time());
    o.drawFigure = m_figure->isChecked();
    if (!reference && !second) o.laidOver = laidOver();
    const Theme& t = m_context.theme;
    QString verdict;
    if (phase && !phase->values.empty()) {
        const JudgedValue& v = phase->values[static_cast<std::size_t>(m_playhead.measure())];
        const bool seen = v.status != Status::Unseen;
        if (seen)
            o.construction = Construction{m_playhead.measure(), o.lead, t.pine, floorFan(reference, time)};
        if (!reference) {
            const Mark mark = markOf(b.review, i, k, v);
            if (o.construction) o.construction->colour = markColour(mark, t);
            verdict = seen ? spokenValue(m_playhead.measure(), v.value.value) + " ± " +
                                 valueText(m_playhead.measure(), 2 * v.value.u)
                      : v.value.view == View::Both ? tr("cannot tell, even from both clips")
                                                   : tr("cannot tell from this view");
        } else {
            if (v.reference && (b.review.builtInReference || seen))
                verdict = spokenValue(m_playhead.measure(), *v.reference);
        }
    }
    PictureView& view = reference ? *m_referenceView : *m_studentView;
    view.setOverlay(o);
    QString caption =
        (!reference ? m_name->text() : m_referenceChoice->currentText()) + ", " + timeText(time);
    if (o.laidOver)
        caption += tr(" · dashed: %1, %2")
                       .arg(m_referenceChoice->currentText(), timeText(m_playhead.referenceTime()));
    view.setCaption(caption, verdict);
}

void ReviewPage::askForPictures()
{
    const double time = m_playhead.time();
    m_studentView->showTime(showsSecond() ? m_playhead.bundle()->secondTimeAt(time) : time);
    m_referenceView->showTime(m_playhead.referenceTime());
}

void ReviewPage::showMoment()
{
    const ReviewBundle* b = m_playhead.bundle();
    if (!b) return;
    const auto [i, k] = m_playhead.phase();
    m_title->setText(phaseTitle(b->review, i, k));
    const QString whole = timeText(b->student.track.duration());
    // Of a fixed size: a label that may grow has the whole page laid out anew with each picture.
    m_clock->setFixedSize(m_clock->fontMetrics().size(0, tr("%1 of %2").arg(whole, whole)) + QSize(8, 0));
    m_clock->setText(tr("%1 of %2").arg(timeText(m_playhead.time()), whole));
    updateOverlay(false);
    updateOverlay(true);
}

} // namespace jl
