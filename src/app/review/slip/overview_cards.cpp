#include "app/review/slip/overview_cards.h"
#include "app/theme/label.h"
#include "app/theme/mark_label.h"
#include "review/side_difference.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace jl
{
namespace
{

using State = StandingPoint::State;

Mark markOfState(State state)
{
    constexpr Mark marks[]{Mark::Within, Mark::Watch, Mark::Fault, Mark::CannotTell};
    return marks[static_cast<int>(state)];
}

int countOf(const Standing& standing, State state)
{
    return static_cast<int>(std::count_if(standing.points.begin(), standing.points.end(),
                                          [&](const StandingPoint& p) { return p.state == state; }));
}

QString summaryOf(const Standing& standing)
{
    const int off = countOf(standing, State::Off), watch = countOf(standing, State::Watch);
    if (off > 0) return StandingCard::tr("%1 to look at").arg(off);
    if (watch > 0) return StandingCard::tr("%1 to watch").arg(watch);
    return StandingCard::tr("nothing amiss");
}

} // namespace

StandingCard::StandingCard(const Standing& standing, const Theme& theme, QWidget* parent) : QWidget(parent)
{
    setObjectName("slip.standing");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(2, 2, 2, 2);
    layout->setSpacing(3);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    auto* title = label(tr("How you stand"), 1.0, QFont::DemiBold, theme.ink, this);
    head->addWidget(title);
    auto* summary = new ElidedLabel(0.95, QFont::Normal, theme.quiet, this);
    summary->setText(summaryOf(standing));
    summary->setObjectName("slip.standing.summary");
    head->addWidget(summary, 1);
    auto* look = new QToolButton(this);
    look->setText(tr("look"));
    look->setObjectName("slip.standing.look");
    look->setAutoRaise(true);
    look->setAccessibleName(tr("Look at the standing before the form"));
    connect(look, &QToolButton::clicked, this, &StandingCard::asked);
    head->addWidget(look);
    auto* unfold = new QToolButton(this);
    unfold->setObjectName("slip.standing.unfold");
    unfold->setAccessibleName(tr("Every point of standing"));
    unfold->setAutoRaise(true);
    unfold->setCheckable(true);
    head->addWidget(unfold);
    layout->addLayout(head);
    auto* lines = new QWidget(this);
    auto* list = new QVBoxLayout(lines);
    list->setContentsMargins(0, 0, 0, 0);
    list->setSpacing(2);
    for (State state : {State::Off, State::Watch, State::Good, State::Unseen})
        for (const StandingPoint& p : standing.points)
            if (p.state == state) list->addWidget(pointLine(p, theme));
    layout->addWidget(lines);
    const auto show = [unfold, lines](bool open) {
        lines->setVisible(open);
        unfold->setArrowType(open ? Qt::DownArrow : Qt::RightArrow);
    };
    connect(unfold, &QToolButton::toggled, this, show);
    const bool open = countOf(standing, State::Off) > 0;
    unfold->setChecked(open);
    show(open);
}

QWidget* StandingCard::pointLine(const StandingPoint& point, const Theme& theme)
{
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(new MarkLabel(markOfState(point.state), theme, line), 0, Qt::AlignTop);
    const bool seen = point.state != State::Unseen;
    QString text = QString::fromStdString(point.what);
    if (!point.words.empty()) text += ": " + QString::fromStdString(point.words);
    if (!seen) text = tr("%1: this view does not show it").arg(text);
    row->addWidget(paragraph(text, 0.95, QFont::Normal, seen ? theme.ink : theme.quiet, line), 1,
                   Qt::AlignTop);
    return line;
}

QWidget* sidesCard(const Review& review, const Theme& theme, QWidget* parent)
{
    const auto differences = sideDifferences(review);
    if (differences.empty()) return nullptr;
    auto* card = new QWidget(parent);
    card->setObjectName("slip.sides");
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(2, 2, 2, 2);
    layout->setSpacing(2);
    layout->addWidget(label(StandingCard::tr("Left and right"), 1.0, QFont::DemiBold, theme.ink, card));
    for (const SideDifference& d : differences)
        layout->addWidget(paragraph(QString::fromStdString(d.words), 0.95, QFont::Normal, theme.ink, card));
    return card;
}

QWidget* progressLine(const ProgressSince& progress, const Review& review, const Context& context,
                      QWidget* parent)
{
    QStringList better;
    for (const FaultChange& c : progress.faults) {
        const bool taught = std::any_of(review.teach.begin(), review.teach.end(),
                                        [&](const Correction& t) { return t.fault == c.fault; });
        const FaultRule* rule = context.data.rules.find(c.fault);
        if (c.change == Change::Better && !taught && rule)
            better << QString::fromStdString(rule->plainName() + ": " + c.words);
    }
    if (!progress.incomparable.empty())
        better = {StandingCard::tr("Not comparable: %1").arg(QString::fromStdString(progress.incomparable))};
    if (better.isEmpty()) return nullptr;
    auto* line = paragraph(StandingCard::tr("Since last time: %1.").arg(better.join("; ")), 0.95,
                           QFont::Normal, context.theme.pine, parent);
    line->setObjectName("slip.progress");
    return line;
}

} // namespace jl
