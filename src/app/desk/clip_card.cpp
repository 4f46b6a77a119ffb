#include "app/desk/clip_card.h"
#include "app/theme/icon.h"
#include "base/time_left.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{

ClipCard::ClipCard(const ClipRow& clip, const Context& context, QWidget* parent)
    : QWidget(parent), m_clip(clip), m_theme(context.theme)
{
    const Theme& t = context.theme;
    setObjectName(QString("desk.clip.%1").arg(clip.id));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 10, 14, 10);
    row->setSpacing(14);
    m_still = new QLabel(this);
    m_still->setFixedSize(148, 84);
    m_still->setAlignment(Qt::AlignCenter);
    m_still->setPixmap(icon("film", t.quiet).pixmap(28, 28));
    row->addWidget(m_still);

    const auto line = [&](const QString& text, double size, int weight, const QColor& colour) {
        auto* l = new QLabel(text, this);
        l->setFont(textFont(size, weight));
        QPalette p = l->palette();
        p.setColor(QPalette::WindowText, colour);
        l->setPalette(p);
        l->setWordWrap(true);
        return l;
    };
    auto* middle = new QVBoxLayout;
    middle->setSpacing(2);
    const auto student = clip.studentId ? context.library.student(*clip.studentId) : std::nullopt;
    middle->addStretch(1);
    middle->addWidget(line(student          ? student->name
                           : clip.reference ? tr("Reference")
                                            : tr("Student not named yet"),
                           1.1, QFont::Bold, t.ink));
    middle->addWidget(line(clip.title, 1.0, QFont::Normal, t.quiet));
    const bool waiting = clip.state == ClipState::Waiting;
    m_state = line(clip.state == ClipState::Failed ? clip.message
                   : waiting                       ? tr("waiting for extraction")
                                                   : tr("ready"),
                   0.95, QFont::Normal,
                   clip.state == ClipState::Failed  ? t.lantern
                   : clip.state == ClipState::Ready ? t.pine
                                                    : t.quiet);
    m_state->setObjectName("state");
    middle->addWidget(m_state);
    m_progress = new QProgressBar(this);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(6);
    m_progress->setRange(0, 1000);
    m_progress->setAccessibleName(tr("Extraction of %1").arg(clip.title));
    m_progress->setVisible(waiting);
    middle->addWidget(m_progress);
    middle->addStretch(1);
    row->addLayout(middle, 1);

    const auto button = [&](const QString& text, const QString& name, auto signal, bool accent = false) {
        auto* b = new QPushButton(text, this);
        b->setAccessibleName(text + ": " + clip.title);
        b->setObjectName(name);
        b->setProperty("accent", accent);
        connect(b, &QPushButton::clicked, this, [this, signal] { emit(this->*signal)(m_clip.id); });
        row->addWidget(b);
    };
    if (waiting) button(tr("Cancel"), "cancel", &ClipCard::cancelRequested);
    if (clip.state == ClipState::Failed) {
        button(tr("Try again"), "retry", &ClipCard::retryRequested);
        button(tr("Remove"), "remove", &ClipCard::removeRequested);
    }
    if (clip.state == ClipState::Ready && !clip.reference) {
        button(tr("First look"), "look", &ClipCard::lookRequested);
        button(tr("Review"), "review", &ClipCard::openRequested, true);
    }
}

void ClipCard::setStill(const QImage& still)
{
    QPixmap picture(m_still->size());
    picture.fill(Qt::transparent);
    QPainter p(&picture);
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath round;
    round.addRoundedRect(QRectF(picture.rect()), 6, 6);
    p.setClipPath(round);
    const QImage scaled =
        still.scaled(m_still->size(), Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    p.drawImage((m_still->width() - scaled.width()) / 2, (m_still->height() - scaled.height()) / 2, scaled);
    p.end();
    m_still->setPixmap(picture);
}

void ClipCard::setProgress(double share, double secondsLeft)
{
    m_progress->setValue(static_cast<int>(share * 1000));
    m_state->setText(secondsLeft > 0
                         ? tr("finding the body, %1 left").arg(QString::fromStdString(waitWords(secondsLeft)))
                         : tr("finding the body"));
}

void ClipCard::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(m_theme.line);
    p.setBrush(m_theme.raised);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
}

} // namespace jl
