#include "draw/pair_picture.h"
#include "draw/body_painter.h"
#include "draw/breath_curve.h"
#include "draw/fonts.h"
#include "draw/rgb_image.h"
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kGap = 8;                                    ///< pixels
constexpr double kLandscapeWords = 112, kPortraitWords = 190; ///< height, pixels
constexpr double kTitle = 30, kCue = 26, kCaption = 20;       ///< pixels
constexpr double kBreathHeight = 22;                          ///< pixels
constexpr Seconds kBefore = 2.5, kAfter = 0.8;                ///< round a moment

QString q(std::string_view words)
{
    return QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size()));
}

/// Words in a box, made smaller until they fit; the height that they take.
double drawFitted(QPainter& painter, const QRectF& box, const QString& words, double size, int weight)
{
    constexpr double smallest = 13, step = 0.94;
    for (;; size *= step) {
        painter.setFont(face(size, weight));
        const QRectF taken = painter.boundingRect(box, Qt::TextWordWrap, words);
        if (size > smallest && (taken.height() > box.height() || taken.width() > box.width())) continue;
        painter.drawText(box, Qt::TextWordWrap, words);
        return taken.height();
    }
}

void drawCaption(QPainter& painter, const QRectF& panel, const QString& words, const QColor& colour,
                 const Theme& theme)
{
    painter.setFont(face(kCaption, QFont::DemiBold));
    const QRectF box = painter.boundingRect(panel.adjusted(16, 12, 0, 0), Qt::AlignLeft, words);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme.raised);
    painter.drawRoundedRect(box.adjusted(-8, -4, 8, 4), 6, 6);
    painter.setPen(colour);
    painter.drawText(box, Qt::AlignLeft, words);
}

} // namespace

std::vector<PairPassage> passagesOf(const Slip& slip, const Review& review)
{
    std::vector<PairPassage> passages;
    for (const SlipItem& item : slip.items) {
        Seconds begin = item.time - kBefore;
        for (const ReviewedPosture& posture : review.postures)
            for (const ReviewedPhase& phase : posture.phases)
                if (phase.student.matched && phase.student.begin <= item.time &&
                    item.time <= phase.student.time)
                    begin = std::max(begin, phase.student.begin);
        // A phase that only just began shows nothing: some of what leads to it belongs to it.
        begin = std::max(0.0, std::min(begin, item.time - kAfter));
        passages.push_back(
            {begin, item.time + kAfter, item.time, item.title, item.cue, {item.measure, item.lead}});
    }
    return passages;
}

Result<PairPassage> passageOf(const Review& review, std::size_t posture)
{
    if (posture >= review.postures.size())
        return Error{Error::Kind::WrongUse, "the form has no such posture", std::to_string(posture + 1),
                     "It has " + std::to_string(review.postures.size()) + "."};
    const ReviewedPosture& p = review.postures[posture];
    std::optional<PairPassage> passage;
    for (const ReviewedPhase& phase : p.phases) {
        if (!phase.student.matched) continue;
        if (!passage) passage = PairPassage{phase.student.begin, 0, {}, p.name, p.purpose.use, {}};
        passage->to = phase.student.left();
    }
    if (passage && passage->to > passage->from) return *passage;
    return Error{Error::Kind::NothingFound, "this posture was not found in the clip", p.name,
                 "Choose one that was."};
}

QSize PairPicture::sizeOf(PairShape shape)
{
    return shape == PairShape::Landscape ? QSize(1280, 720) : QSize(720, 1280);
}

PairPicture::PairPicture(std::shared_ptr<const ReviewScene> scene, PairPassage passage,
                         const PairStyle& style, const Theme& theme)
    : m_scene(std::move(scene)), m_passage(std::move(passage)), m_style(style), m_theme(&theme)
{
}

Result<PairPicture> PairPicture::make(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
                                      PairPassage passage, const PairStyle& style, const Theme& theme)
{
    PairPicture picture(std::move(scene), std::move(passage), style, theme);
    const auto open = [&](Panel& panel, const std::string& file, const ClipReading& clip) -> Result<Done> {
        panel.trackWidth = clip.track.width;
        if (file.empty()) return Done{};
        auto walk = FrameWalk::open(file);
        if (!walk) return walk.error();
        panel.walk.emplace(std::move(*walk));
        return Done{};
    };
    const ReviewScene& s = *picture.m_scene;
    auto opened = open(picture.m_student, files.student, s.student);
    if (opened && s.reference && style.layout == PairLayout::Beside)
        opened = open(picture.m_reference, files.reference, *s.reference);
    if (!opened) return opened.error();
    picture.placePanels();
    picture.cropPanels();
    return picture;
}

void PairPicture::placePanels()
{
    const QSizeF size = sizeOf(m_style.shape);
    const double words = m_style.shape == PairShape::Landscape ? kLandscapeWords : kPortraitWords;
    const double panels = size.height() - words - kGap;
    m_words = {0, size.height() - words, size.width(), words};
    m_student.place = {0, 0, size.width(), panels};
    if (m_style.layout == PairLayout::Over) return;
    if (m_style.shape == PairShape::Landscape) {
        const double width = (size.width() - kGap) / 2;
        m_student.place = {0, 0, width, panels};
        m_reference.place = {width + kGap, 0, width, panels};
    } else {
        const double height = (panels - kGap) / 2;
        m_student.place = {0, 0, size.width(), height};
        m_reference.place = {0, height + kGap, size.width(), height};
    }
}

BodyShot PairPicture::shotAt(bool reference, Seconds time) const
{
    return reference ? referenceShot(*m_scene, time, m_passage.subject, *m_theme)
                     : studentShot(*m_scene, time, m_passage.subject, *m_theme);
}

void PairPicture::cropPanels()
{
    constexpr Seconds step = 0.1;
    QRectF student, reference;
    for (Seconds t = m_passage.from; t <= m_passage.to; t += step) {
        if (const BodyShot shot = shotAt(false, t); shot.body.seen)
            student = student.united(boxAround(shot.body));
        const BodyShot shot = m_style.layout == PairLayout::Over ? referenceOverStudent(*m_scene, t)
                                                                 : shotAt(true, m_scene->referenceTimeAt(t));
        if (shot.body.seen) reference = reference.united(boxAround(shot.body));
    }
    if (m_style.layout == PairLayout::Over) student = student.united(reference);
    const QRectF whole(0, 0, m_student.trackWidth, m_student.trackWidth); // where nobody is ever seen
    const auto crop = [&](Panel& panel, const QRectF& box) {
        if (!panel.place.isEmpty())
            panel.crop = inShape(box.isEmpty() ? whole : box, panel.place.width() / panel.place.height());
    };
    crop(m_student, student);
    crop(m_reference, reference);
}

Result<Seconds> PairPicture::draw(Panel& panel, bool reference, Seconds time)
{
    QImage still;
    if (panel.walk) {
        const auto frame = panel.walk->at(time);
        if (!frame) return frame.error();
        time = (*frame)->time;
        if (panel.imageOf == time) return time;
        const double wanted = panel.trackWidth * panel.place.width() / panel.crop.width();
        still =
            imageOf(toRgb(**frame, std::min((*frame)->uprightWidth(), static_cast<int>(std::ceil(wanted)))));
    }
    panel.image = QImage(panel.place.size().toSize(), QImage::Format_RGB32);
    panel.image.fill(m_theme->raised);
    QPainter painter(&panel.image);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const QTransform toScreen = cropTo(panel.crop, panel.place.size());
    if (!still.isNull()) drawPictureUnder(painter, still, toScreen, panel.trackWidth);
    drawShot(painter, shotAt(reference, time), toScreen, still.isNull(), *m_theme);
    if (m_style.layout == PairLayout::Over)
        if (const BodyShot over = referenceOverStudent(*m_scene, time); over.body.seen)
            drawOutline(painter, over.body, toScreen, m_theme->pine);
    panel.imageOf = time;
    return time;
}

void PairPicture::drawWords(QPainter& painter, Seconds studentTime) const
{
    QRectF box = m_words.adjusted(20, 4, -20, -10);
    if (m_style.breath) {
        const QRectF row(box.left(), box.bottom() - kBreathHeight, box.width(), kBreathHeight - 4);
        box.setBottom(row.top() - 6);
        const double duration = m_passage.to - m_passage.from;
        const auto xOf = [&](Seconds t) {
            return row.left() + row.width() * (t - m_passage.from) / duration;
        };
        painter.save();
        painter.setClipRect(row.adjusted(0, -3, 0, 3));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(m_theme->pine, 3));
        painter.drawPath(breathCurve(m_scene->review, row, xOf));
        painter.setPen(QPen(m_theme->lantern, 3));
        painter.drawLine(QPointF(xOf(studentTime), row.top() - 3),
                         QPointF(xOf(studentTime), row.bottom() + 3));
        painter.restore();
    }
    painter.setPen(m_theme->ink);
    const QRectF title(box.left(), box.top(), box.width(), kTitle * 1.3);
    const double taken = drawFitted(painter, title, q(m_passage.title), kTitle, QFont::Bold);
    painter.setPen(m_theme->lantern);
    drawFitted(painter, box.adjusted(0, taken, 0, 0), q(m_passage.cue), kCue, QFont::DemiBold);
}

Result<QImage> PairPicture::at(Seconds studentTime)
{
    const auto student = draw(m_student, false, studentTime);
    if (!student) return student.error();
    m_shown.student = *student;
    m_shown.reference = m_scene->referenceTimeAt(studentTime);
    QImage out(sizeOf(m_style.shape), QImage::Format_RGB32);
    out.fill(m_theme->ground);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.drawImage(m_student.place.topLeft(), m_student.image);
    drawCaption(painter, m_student.place, q(kSlipWords.student), m_theme->lantern, *m_theme);
    if (m_style.layout == PairLayout::Beside) {
        const auto reference = draw(m_reference, true, m_shown.reference);
        if (!reference) return reference.error();
        m_shown.reference = *reference;
        painter.drawImage(m_reference.place.topLeft(), m_reference.image);
        drawCaption(painter, m_reference.place, q(kSlipWords.aim), m_theme->pine, *m_theme);
    } else {
        drawCaption(painter, m_student.place.adjusted(0, 2 * kCaption, 0, 0), q(kSlipWords.aim),
                    m_theme->pine, *m_theme);
    }
    drawWords(painter, studentTime);
    return out;
}

} // namespace jl
