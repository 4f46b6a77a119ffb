#include "app/review/slip/slip_view.h"
#include "app/review/model/change_command.h"
#include "app/review/slip/card_order.h"
#include "app/review/slip/caution_line.h"
#include "app/review/slip/correction_card.h"
#include "app/review/slip/overview_cards.h"
#include "app/review/slip/own_finding_dialog.h"
#include "app/review/slip/practice_row.h"
#include "app/review/slip/slip_actions.h"
#include "app/theme/label.h"
#include "app/theme/whole_lines.h"
#include "base/day.h"
#include "exchange/plan_calendar.h"
#include "review/teaching.h"
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QUndoStack>
#include <QVBoxLayout>
#include <algorithm>
#include <set>

namespace jl
{
namespace
{

/// How high the slip's cautions may become where they are unfolded, pixels.
constexpr int kMostCaution = 130;

} // namespace

SlipView::SlipView(Playhead& playhead, const Context& context, QUndoStack& undo, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_context(context), m_library(context.library),
      m_theme(context.theme), m_undo(undo)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    m_title = paragraph({}, 1.1, QFont::DemiBold, m_theme.ink, this);
    m_title->setObjectName("slip.title");
    layout->addWidget(m_title);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* inside = new QWidget(scroll);
    m_cards = new QVBoxLayout(inside);
    m_cards->setContentsMargins(0, 0, 4, 0);
    m_cards->setSpacing(8);
    scroll->setWidget(inside);
    layout->addWidget(scroll, 1);
    m_scroll = scroll;
    new WholeLines(*scroll, m_theme); // the scroll area keeps it
    m_footer = new QVBoxLayout;
    m_footer->setSpacing(4);
    layout->addLayout(m_footer);
    m_order = new CardOrder(*inside, m_theme);
    connect(m_order, &CardOrder::reordered, this, &SlipView::reorder);
    connect(&playhead, &Playhead::loaded, this, &SlipView::rebuild);
}

void SlipView::setReview(qint64 review, const QString& studentName)
{
    if (m_review != review) { // one that is only made again looks as before
        m_chosen.clear();
        m_unfolded.clear();
    }
    m_review = review;
    m_name = studentName;
    m_rewording.clear();
    m_doubt.clear();
    rebuild();
}

void SlipView::setDoubt(const QString& text)
{
    m_doubt = text;
    showDoubt(); // the cards stay: somebody may be writing in one
}

void SlipView::showDoubt()
{
    if (m_doubt.isEmpty()) return;
    auto* doubt = paragraph(m_doubt, 1.0, QFont::DemiBold, m_theme.ink, this);
    doubt->setObjectName("slip.doubt");
    m_cards->insertWidget(0, doubt);
}

void SlipView::rebuildSoon()
{
    // Saved at once; the cards are rebuilt after this click event.
    QMetaObject::invokeMethod(this, &SlipView::rebuild, Qt::QueuedConnection);
}

void SlipView::keepCue(const QString& fault, const QString& cue)
{
    SlipChoice changed = m_library.choice(m_review, fault);
    changed.cue = cue;
    for (const Correction& c : ordered()) // the proposed words are kept as no words of one's own
        if (QString::fromStdString(c.fault) == fault && QString::fromStdString(c.cue) == cue)
            changed.cue.clear();
    m_rewording.clear();
    choose(fault, changed, tr("reword"));
}

bool SlipView::refused()
{
    if (!m_context.readOnly) return false;
    emit message(readOnlyWords());
    rebuildSoon(); // a button that was pressed goes back
    return true;
}

void SlipView::choose(const QString& fault, const SlipChoice& choice, const QString& what)
{
    if (refused()) return;
    const SlipChoice before = m_library.choice(m_review, fault);
    if (before == choice) return rebuildSoon();
    const auto apply = [this, review = m_review, fault](const SlipChoice& c) {
        const auto saved = m_library.choose(review, fault, c);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        m_chosen = fault.toStdString(); // what is taken back is what the keys act on
        rebuildSoon();
    };
    m_undo.push(new ChangeCommand<SlipChoice>(what, before, choice, apply));
}

void SlipView::decide(const Correction& c, Decision decision, const QString& reason)
{
    const QString fault = QString::fromStdString(c.fault);
    SlipChoice choice = m_library.choice(m_review, fault);
    // Choosing the same again takes it back.
    const bool again = choice.decision == decision && choice.reason == reason;
    choice.decision = again ? Decision::Proposed : decision;
    choice.reason = again ? QString() : reason;
    choice.due = choice.decision == Decision::Parked ? QDate::currentDate().addDays(kParkedDays) : QDate();
    choose(fault, choice, QString::fromStdString(c.title));
}

std::optional<Correction> SlipView::current() const
{
    if (!m_playhead.scene()) return {};
    const std::vector<Correction> all = ordered();
    const auto chosen =
        std::find_if(all.begin(), all.end(), [&](const Correction& c) { return c.fault == m_chosen; });
    if (chosen != all.end()) return *chosen;
    const auto waiting =
        std::find_if(all.begin(), all.end(), [&](const Correction& c) { return !isDecided(c); });
    return waiting != all.end() ? std::optional(*waiting) : std::nullopt;
}

void SlipView::decideNext(Decision decision)
{
    const auto c = current();
    if (!c) return;
    // One key too many must not take back what was decided: that is what undo is for.
    if (m_library.choice(m_review, QString::fromStdString(c->fault)).decision != decision)
        decide(*c, decision);
    const std::vector<Correction> all = ordered();
    const auto next = std::find_if(all.begin(), all.end(), [&](const Correction& other) {
        return other.fault != c->fault && !isDecided(other);
    });
    if (next != all.end()) show(*next);
}

void SlipView::step(int direction)
{
    if (!m_playhead.scene()) return;
    const std::vector<Correction> all = ordered();
    if (all.empty()) return;
    const auto count = static_cast<int>(all.size());
    int at = direction > 0 ? -1 : count; // nothing is chosen: the first or the last
    for (int i = 0; i < count; ++i)
        if (all[static_cast<std::size_t>(i)].fault == m_chosen) at = i;
    show(all[static_cast<std::size_t>(std::clamp(at + direction, 0, count - 1))]);
}

void SlipView::show(const Correction& c)
{
    m_chosen = c.fault;
    for (const Finding& f : m_playhead.scene()->review.findings)
        if (f.fault == c.fault && f.measure) m_playhead.choose(*f.measure);
    m_playhead.moveTo(c.time);
    rebuildSoon();
}

void SlipView::askWhyAside()
{
    const auto c = current();
    if (!c) return;
    if (auto* card =
            findChild<CorrectionCard*>(QString("slip.%1.card").arg(QString::fromStdString(c->fault))))
        card->askWhyAside();
}

void SlipView::unfoldCurrent()
{
    if (const auto c = current()) unfold(c->fault, !m_unfolded.contains(c->fault));
}

void SlipView::unfold(const std::string& fault, bool open)
{
    if (open)
        m_unfolded.insert(fault);
    else
        m_unfolded.erase(fault);
    rebuildSoon();
}

void SlipView::reword(const Correction& c)
{
    m_rewording = QString::fromStdString(c.fault);
    rebuildSoon();
}

void SlipView::rewordCurrent()
{
    if (const auto c = current()) reword(*c);
}

bool SlipView::isDecided(const Correction& c) const
{
    return m_library.choice(m_review, QString::fromStdString(c.fault)).decision != Decision::Proposed;
}

std::vector<Correction> SlipView::ordered() const
{
    const Review& review = m_playhead.scene()->review;
    std::vector<Correction> corrections = review.teach;
    for (const Correction& c : review.further)
        if (isDecided(c)) corrections.push_back(c);
    const QStringList order = m_library.slipOrder(m_review);
    const auto place = [&](const Correction& c) {
        const auto at = order.indexOf(QString::fromStdString(c.fault));
        return at < 0 ? order.size() : at; // what is new comes after what was put in order
    };
    std::stable_sort(corrections.begin(), corrections.end(),
                     [&](const Correction& a, const Correction& b) { return place(a) < place(b); });
    return corrections;
}

void SlipView::reorder(const QStringList& faults)
{
    if (refused()) return;
    const auto apply = [this, review = m_review](const QStringList& order) {
        const auto saved = m_library.setSlipOrder(review, order);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        rebuildSoon();
    };
    m_undo.push(new ChangeCommand<QStringList>(tr("order"), m_library.slipOrder(m_review), faults, apply));
}

void SlipView::fileUnder(const QString& fault, const std::optional<QString>& cause)
{
    if (refused()) return;
    const auto apply = [this, review = m_review, fault](const std::optional<QString>& c) {
        const auto saved = m_library.fileUnder(review, fault, c);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        emit causesChanged();
    };
    m_undo.push(new ChangeCommand<std::optional<QString>>(
        tr("file under another cause"), m_library.filedUnder(m_review, fault), cause, apply));
}

QString SlipView::progressOf(const std::string& fault) const
{
    const auto& progress = m_playhead.scene()->progress;
    if (!progress) return {};
    for (const FaultChange& c : progress->faults)
        if (c.fault == fault) return QString::fromStdString(c.words);
    return {};
}

CardContent SlipView::contentOf(const Correction& c) const
{
    const QString fault = QString::fromStdString(c.fault);
    CardContent content{c, m_library.choice(m_review, fault), progressOf(c.fault), {}, {}, {}};
    content.rewording = m_rewording == fault;
    content.unfolded = m_unfolded.contains(c.fault);
    content.chosen = m_chosen == c.fault;
    if (isOwnFinding(c.fault)) return content;
    content.filedUnder = m_library.filedUnder(m_review, fault);
    const Review& review = m_playhead.scene()->review;
    const auto named = [&](const std::string& id) {
        return std::pair(QString::fromStdString(id),
                         QString::fromStdString(faultName(*m_context.data.rules.find(id), review)));
    };
    std::set<std::string> listed{c.fault};
    for (const Finding& f : review.findings)
        if (f.severity != Severity::Watch && listed.insert(f.fault).second)
            content.causes.push_back(named(f.fault));
    for (std::size_t i = 1; i < c.chain.size(); ++i)
        content.followers.push_back(named(c.chain[i]));
    return content;
}

QWidget* SlipView::card(const Correction& c, bool many)
{
    const CardContent content = contentOf(c);
    auto* card = new CorrectionCard(content, many ? m_order : nullptr, m_theme, this);
    connect(card, &CorrectionCard::decided, this, [this, c](Decision decision, const QString& reason) {
        decide(c, decision, reason);
        if (reason == QLatin1String("wrong")) emit measuredWrong();
    });
    connect(card, &CorrectionCard::showWanted, this, [this, c] { show(c); });
    connect(card, &CorrectionCard::rewordWanted, this, [this, c] { reword(c); });
    connect(card, &CorrectionCard::cueKept, this,
            [this, c](const QString& cue) { keepCue(QString::fromStdString(c.fault), cue); });
    connect(card, &CorrectionCard::removeWanted, this,
            [this, c] { removeOwn(QString::fromStdString(c.fault)); });
    connect(card, &CorrectionCard::filed, this, &SlipView::fileUnder);
    connect(card, &CorrectionCard::unfoldWanted, this, [this, c](bool open) { unfold(c.fault, open); });
    return card;
}

/// How the student stands, and what differs between the sides.
void SlipView::addOverview(const Review& review)
{
    if (review.standing && review.standing->seesAnything()) {
        auto* standing = new StandingCard(*review.standing, m_theme, this);
        connect(standing, &StandingCard::asked, this,
                [this, time = review.standing->time] { m_playhead.moveTo(time); });
        m_cards->addWidget(standing);
    }
    if (QWidget* sides = sidesCard(review, m_theme, this)) m_cards->addWidget(sides);
}

/// Stays below the cards, whatever their height.
void SlipView::buildFooter(const Review& review)
{
    std::vector<Correction> further;
    std::copy_if(review.further.begin(), review.further.end(), std::back_inserter(further),
                 [this](const Correction& c) { return !isDecided(c); });
    auto* actions = new SlipActions(further, isReady(), this);
    connect(actions, &SlipActions::ownWanted, this, &SlipView::addOwn);
    connect(actions, &SlipActions::furtherWanted, this,
            [this](const Correction& c) { decide(c, Decision::Accepted); });
    connect(actions, &SlipActions::pageWanted, this, &SlipView::pageWanted);
    connect(actions, &SlipActions::movingWanted, this, &SlipView::movingWanted);
    m_footer->addWidget(actions);
    QStringList lines;
    for (const std::string& line : review.cautions)
        lines << QString::fromStdString(line);
    for (const std::string& note : review.notes)
        lines << QString::fromStdString(note);
    auto* care = new CautionLine(lines, m_theme, this);
    care->setMaximumHeight(kMostCaution);
    m_footer->addWidget(care);
}

void SlipView::addOwn()
{
    if (refused()) return;
    if (!m_playhead.scene()) return;
    OwnFindingDialog dialog(m_playhead.time(), m_playhead.measure(), m_theme, this);
    if (dialog.exec() != QDialog::Accepted) return;
    const OwnFinding finding = dialog.finding();
    const auto saved = m_library.addOwnFinding(m_review, finding);
    if (!saved) {
        emit message(QString::fromStdString(saved.error().message()));
        return;
    }
    SlipChoice accepted;
    accepted.decision = Decision::Accepted;
    if (const auto kept = m_library.choose(m_review, QString::fromStdString(finding.fault()), accepted);
        !kept)
        emit message(QString::fromStdString(kept.error().message()));
    emit causesChanged();
}

void SlipView::removeOwn(const QString& fault)
{
    if (refused()) return;
    const auto removed = m_library.removeOwnFinding(m_review, fault);
    if (!removed) emit message(QString::fromStdString(removed.error().message()));
    emit causesChanged();
}

bool SlipView::isReady() const
{
    return m_playhead.scene() && (m_playhead.scene()->review.teach.empty() || !accepted().empty());
}

std::vector<ChosenCorrection> SlipView::accepted() const
{
    std::vector<ChosenCorrection> chosen;
    for (const Correction& c : ordered()) {
        const SlipChoice choice = m_library.choice(m_review, QString::fromStdString(c.fault));
        if (choice.decision == Decision::Accepted) chosen.push_back({c, choice.cue.toStdString()});
    }
    return chosen;
}

Result<std::vector<PlannedDay>> SlipView::practice(int minutes) const
{
    PlanRequest request;
    request.first = today();
    request.minutesPerDay = minutes;
    request.section = m_context.data.standards.form(m_playhead.scene()->review.form)->name;
    for (const ChosenCorrection& c : accepted())
        request.drills.push_back(drillOf(c.correction, m_context.data.rules, request.first));
    return planPractice(request);
}

Slip SlipView::slip() const
{
    const ReviewScene& scene = *m_playhead.scene();
    SlipRequest request{m_name.toStdString(),
                        m_context.data.standards.form(scene.review.form)->name,
                        today(),
                        accepted(),
                        {}};
    if (!request.corrections.empty())
        if (auto plan = practice(practiceMinutes(m_library))) request.practice = std::move(*plan);
    return slipOf(scene.review, m_context.data.rules, scene.progress ? &*scene.progress : nullptr, request);
}

void SlipView::savePlan(const QString& file, int minutes)
{
    const auto plan = practice(minutes);
    const auto saved =
        plan ? writeCalendar(*plan, tr("Practice for %1").arg(m_name).toStdString(), file.toStdString())
             : Result<Done>(plan.error());
    emit message(saved ? tr("The week's practice is in %1.").arg(file)
                       : QString::fromStdString(saved.error().message()));
}

void SlipView::clear()
{
    for (QVBoxLayout* layout : {m_cards, m_footer})
        while (QLayoutItem* item = layout->takeAt(0)) {
            delete item->widget();
            delete item;
        }
    m_order->clear();
}

void SlipView::rebuild()
{
    clear();
    if (!m_playhead.scene()) return;
    const Review& review = m_playhead.scene()->review;
    const std::vector<Correction> corrections = ordered();
    const auto accepted = static_cast<int>(this->accepted().size());
    m_title->setText(
        corrections.empty()
            ? tr("Slip for %1").arg(m_name)
            : tr("Slip for %1 · %2 of %3 accepted").arg(m_name).arg(accepted).arg(corrections.size()));
    showDoubt();
    if (const auto& progress = m_playhead.scene()->progress)
        if (QWidget* line = progressLine(*progress, review, m_context, this)) m_cards->addWidget(line);
    if (review.teach.empty())
        m_cards->addWidget(paragraph(
            tr("Nothing to correct can be claimed from this view. A clip from another side may show more."),
            1.0, QFont::Normal, m_theme.ink, this));
    QWidget* chosen = nullptr;
    for (const Correction& c : corrections) {
        QWidget* one = card(c, corrections.size() > 1);
        if (c.fault == m_chosen) chosen = one;
        m_cards->addWidget(one);
    }
    addOverview(review);
    if (!review.teach.empty()) {
        auto* practice = new PracticeRow(m_library, accepted > 0, this);
        connect(practice, &PracticeRow::saveWanted, this, &SlipView::savePlan);
        m_cards->addWidget(practice);
    }
    m_cards->addStretch(1);
    buildFooter(review);
    if (chosen) // queued, until the layout has settled
        QMetaObject::invokeMethod(
            chosen, [this, chosen] { m_scroll->ensureWidgetVisible(chosen, 0, 4); }, Qt::QueuedConnection);
}

} // namespace jl
