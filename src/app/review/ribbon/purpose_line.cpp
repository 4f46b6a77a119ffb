#include "app/review/ribbon/purpose_line.h"
#include "app/theme/label.h"
#include <QLabel>
#include <QVBoxLayout>

namespace jl
{

PurposeLine::PurposeLine(const Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(1);
    m_use = paragraph({}, 0.95, QFont::Normal, theme.ink, this);
    m_use->setObjectName("purpose.use");
    m_feel = paragraph({}, 0.95, QFont::Normal, theme.indigo, this);
    m_feel->setObjectName("purpose.feel");
    layout->addWidget(m_use);
    layout->addWidget(m_feel);
    connect(&playhead, &Playhead::phaseChanged, this, &PurposeLine::fill);
    connect(&playhead, &Playhead::loaded, this, &PurposeLine::fill);
    fill();
}

void PurposeLine::fill()
{
    const ReviewScene* scene = m_playhead.scene();
    const auto posture = m_playhead.phase().first;
    const bool known = scene && posture < scene->review.postures.size() &&
                       !scene->review.postures[posture].purpose.use.empty();
    setVisible(known);
    if (!known) return;
    const ReviewedPosture& p = scene->review.postures[posture];
    m_use->setToolTip(tr("Where the force goes: %1").arg(QString::fromStdString(p.purpose.force)));
    const ReviewedPhase* phase = m_playhead.currentPhase();
    const QString variant =
        phase && !phase->variant.empty()
            ? tr(" Done as %1, which your school accepts.").arg(QString::fromStdString(phase->variant))
            : QString();
    m_use->setText(QString::fromStdString(p.purpose.use) + variant);
    const QString breath = !phase                   ? QString()
                           : phase->breath == "out" ? tr("Breathe out. ")
                                                    : tr("Breathe in. ");
    m_feel->setText(breath + QString::fromStdString(p.purpose.feel));
}

} // namespace jl
