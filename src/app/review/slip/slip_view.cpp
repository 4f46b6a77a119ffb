#include "app/review/slip/slip_view.h"
#include "app/review/model/change_command.h"
#include "app/review/slip/card_order.h"
#include "app/review/slip/cue_editor.h"
#include "app/review/slip/overview_cards.h"
#include "app/review/slip/own_finding_dialog.h"
#include "app/review/slip/practice_row.h"
#include "app/review/slip/slip_actions.h"
#include "app/theme/label.h"
#include "app/theme/mark_label.h"
#include "base/day.h"
#include "exchange/plan_calendar.h"
#include "review/teaching.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
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

constexpr int kParkedDays = 14; ///< after which a parked correction returns

QString reasonWords(const QString& reason)
{
    if (reason == "variant") return SlipView::tr("another school's way");
    if (reason == "limit") return SlipView::tr("a limit of this body");
    if (reason == "wrong") return SlipView::tr("measured wrong");
    return {};
}

/// The cue as the student will read it.
QString cueOf(const Correction& c, const SlipChoice& choice)
{
    return choice.cue.isEmpty() ? QString::fromStdString(c.cue) : choice.cue;
}

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
    m_order = new CardOrder(*inside, m_theme);
    connect(m_order, &CardOrder::reordered, this, &SlipView::reorder);
    connect(&playhead, &Playhead::loaded, this, &SlipView::rebuild);
}

void SlipView::setReview(qint64 review, const QString& studentName)
{
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

void SlipView::choose(const QString& fault, const SlipChoice& choice, const QString& what)
{
    const SlipChoice before = m_library.choice(m_review, fault);
    if (before == choice) return rebuildSoon();
    const auto apply = [this, review = m_review, fault](const SlipChoice& c) {
        const auto saved = m_library.choose(review, fault, c);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
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

void SlipView::decideNext(Decision decision)
{
    if (!m_playhead.scene()) return;
    for (const Correction& c : ordered())
        if (m_library.choice(m_review, QString::fromStdString(c.fault)).decision == Decision::Proposed)
            return decide(c, decision);
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
    const auto apply = [this, review = m_review](const QStringList& order) {
        const auto saved = m_library.setSlipOrder(review, order);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        rebuildSoon();
    };
    m_undo.push(new ChangeCommand<QStringList>(tr("order"), m_library.slipOrder(m_review), faults, apply));
}

void SlipView::fileUnder(const QString& fault, const std::optional<QString>& cause)
{
    const auto apply = [this, review = m_review, fault](const std::optional<QString>& c) {
        const auto saved = m_library.fileUnder(review, fault, c);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        emit causesChanged();
    };
    m_undo.push(new ChangeCommand<std::optional<QString>>(
        tr("file under another cause"), m_library.filedUnder(m_review, fault), cause, apply));
}

QLayout* SlipView::decisions(const Correction& c, const SlipChoice& choice, QWidget* card)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const QString fault = QString::fromStdString(c.fault), title = QString::fromStdString(c.title);
    const auto button = [&](const QString& text, Decision decision, const char* name) {
        auto* b = new QPushButton(text, card);
        b->setCheckable(true);
        b->setChecked(choice.decision == decision);
        b->setObjectName(QString("slip.%1.%2").arg(fault, name));
        b->setAccessibleName(tr("%1: %2").arg(text, title));
        row->addWidget(b);
        return b;
    };
    auto* accept = button(choice.decision == Decision::Accepted ? tr("accepted") : tr("accept"),
                          Decision::Accepted, "accept");
    auto* park =
        button(choice.decision == Decision::Parked ? tr("parked") : tr("park"), Decision::Parked, "park");
    park->setToolTip(
        tr("Put off for %n day(s); it returns when it is due (Backspace)", nullptr, kParkedDays));
    accept->setToolTip(tr("Goes on the slip and into the practice plan (Enter)"));
    connect(accept, &QPushButton::clicked, this, [this, c] { decide(c, Decision::Accepted); });
    connect(park, &QPushButton::clicked, this, [this, c] { decide(c, Decision::Parked); });
    auto* aside = button(tr("set aside…"), Decision::SetAside, "set-aside");
    auto* menu = new QMenu(aside);
    for (const char* reason : {"variant", "limit", "wrong"}) {
        QAction* action = menu->addAction(reasonWords(reason));
        action->setObjectName(QString("slip.%1.%2").arg(fault, reason));
        connect(action, &QAction::triggered, this, [this, c, reason] {
            decide(c, Decision::SetAside, reason);
            if (reason == QLatin1String("wrong")) emit measuredWrong();
        });
    }
    if (choice.decision == Decision::SetAside)
        connect(menu->addAction(tr("take it back")), &QAction::triggered, this,
                [this, c, choice] { decide(c, Decision::SetAside, choice.reason); });
    aside->setMenu(menu);
    row->addStretch(1);
    return row;
}

QLayout* SlipView::more(const Correction& c, QWidget* card)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const QString fault = QString::fromStdString(c.fault), title = QString::fromStdString(c.title);
    const auto button = [&](const QString& text, const char* name) {
        auto* b = new QPushButton(text, card);
        b->setFlat(true);
        b->setObjectName(QString("slip.%1.%2").arg(fault, name));
        b->setAccessibleName(tr("%1: %2").arg(text, title));
        row->addWidget(b);
        return b;
    };
    auto* show = button(tr("show"), "show");
    show->setToolTip(tr("Go to its clearest moment"));
    connect(show, &QPushButton::clicked, this, [this, c] {
        for (const Finding& f : m_playhead.scene()->review.findings)
            if (f.fault == c.fault && f.measure) m_playhead.choose(*f.measure);
        m_playhead.moveTo(c.time);
    });
    auto* reword = button(tr("reword"), "reword");
    connect(reword, &QPushButton::clicked, this, [this, fault] {
        m_rewording = fault;
        rebuildSoon();
    });
    if (isOwnFinding(c.fault)) {
        auto* remove = button(tr("take away"), "remove");
        connect(remove, &QPushButton::clicked, this, [this, fault] { removeOwn(fault); });
        row->addStretch(1);
        return row;
    }
    auto* cause = button(tr("cause…"), "cause");
    cause->setToolTip(tr("File it under what you see as its cause; the program learns from it"));
    auto* menu = new QMenu(cause);
    std::set<std::string> listed{c.fault};
    const Review& review = m_playhead.scene()->review;
    const auto nameOf = [&](const std::string& id) {
        return QString::fromStdString(faultName(*m_context.data.rules.find(id), review));
    };
    for (const Finding& f : review.findings) {
        if (f.severity == Severity::Watch || !listed.insert(f.fault).second) continue;
        const QString other = QString::fromStdString(f.fault);
        connect(menu->addAction(nameOf(f.fault)), &QAction::triggered, this,
                [this, fault, other] { fileUnder(fault, other); });
    }
    if (c.chain.size() > 1) {
        menu->addSeparator();
        for (std::size_t i = 1; i < c.chain.size(); ++i) {
            const QString follower = QString::fromStdString(c.chain[i]);
            connect(menu->addAction(tr("\"%1\" stands for itself").arg(nameOf(c.chain[i]))),
                    &QAction::triggered, this, [this, follower] { fileUnder(follower, QString("")); });
        }
    }
    if (m_library.filedUnder(m_review, fault))
        connect(menu->addAction(tr("as the program sees it")), &QAction::triggered, this,
                [this, fault] { fileUnder(fault, {}); });
    cause->setMenu(menu);
    cause->setEnabled(!menu->isEmpty());
    row->addStretch(1);
    return row;
}

QString SlipView::progressOf(const std::string& fault) const
{
    const auto& progress = m_playhead.scene()->progress;
    if (!progress) return {};
    for (const FaultChange& c : progress->faults)
        if (c.fault == fault) return QString::fromStdString(c.words);
    return {};
}

QWidget* SlipView::card(const Correction& c)
{
    auto* card = new QWidget(this);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(2, 4, 2, 4);
    layout->setSpacing(3);
    const QString fault = QString::fromStdString(c.fault);
    const SlipChoice choice = m_library.choice(m_review, fault);
    const bool quiet = choice.decision == Decision::SetAside || choice.decision == Decision::Parked;

    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    head->addWidget(new MarkLabel(c.severity == Severity::Safety ? Mark::Safety : Mark::Fault, m_theme, card),
                    0, Qt::AlignTop);
    head->addWidget(paragraph(QString::fromStdString(c.title), 1.0, QFont::Bold,
                              quiet ? m_theme.quiet : m_theme.ink, card),
                    1);
    if (ordered().size() > 1)
        head->addWidget(m_order->handle(fault, QString::fromStdString(c.title), *card), 0, Qt::AlignTop);
    layout->addLayout(head);
    layout->addWidget(
        paragraph(isOwnFinding(c.fault) ? tr("your own finding") : QString::fromStdString(c.chainText), 0.9,
                  QFont::Normal, m_theme.indigo, card));
    const auto small = [&](const QString& text) {
        if (!text.isEmpty()) layout->addWidget(paragraph(text, 0.9, QFont::Normal, m_theme.quiet, card));
    };
    if (choice.decision == Decision::Parked)
        small(tr("returns on %1").arg(QLocale().toString(choice.due, QLocale::ShortFormat)));
    if (choice.decision == Decision::SetAside) small(tr("set aside: %1").arg(reasonWords(choice.reason)));
    if (!quiet) {
        if (m_rewording == fault) {
            auto* editor = new CueEditor(cueOf(c, choice), card);
            connect(editor, &CueEditor::kept, this, [this, c, choice](const QString& cue) {
                SlipChoice changed = choice;
                changed.cue = cue == QString::fromStdString(c.cue) ? QString() : cue;
                m_rewording.clear();
                choose(QString::fromStdString(c.fault), changed, tr("reword"));
            });
            layout->addWidget(editor);
        } else {
            auto* cue = paragraph(cueOf(c, choice), 1.0, QFont::Normal, m_theme.ink, card);
            cue->setObjectName(QString("slip.%1.text").arg(fault));
            layout->addWidget(cue);
        }
        small(QString::fromStdString(c.reason));
        if (!c.drill.empty()) small(tr("Drill: %1").arg(QString::fromStdString(c.drill)));
        small(tr("Why now: %1.").arg(QString::fromStdString(c.whyNow)));
        const QString progress = progressOf(c.fault);
        if (!progress.isEmpty()) small(tr("Since last time: %1.").arg(progress));
    }
    layout->addLayout(decisions(c, choice, card));
    if (!quiet) layout->addLayout(more(c, card));
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

void SlipView::addActions(const Review& review, int accepted)
{
    std::vector<Correction> further;
    std::copy_if(review.further.begin(), review.further.end(), std::back_inserter(further),
                 [this](const Correction& c) { return !isDecided(c); });
    auto* actions = new SlipActions(further, accepted, !review.teach.empty(), m_library, this);
    connect(actions, &SlipActions::ownWanted, this, &SlipView::addOwn);
    connect(actions, &SlipActions::furtherWanted, this,
            [this](const Correction& c) { decide(c, Decision::Accepted); });
    connect(actions, &SlipActions::planWanted, this, &SlipView::savePlan);
    connect(actions, &SlipActions::pageWanted, this, &SlipView::pageWanted);
    m_cards->addWidget(actions);
}

void SlipView::addOwn()
{
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
    const auto removed = m_library.removeOwnFinding(m_review, fault);
    if (!removed) emit message(QString::fromStdString(removed.error().message()));
    emit causesChanged();
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

void SlipView::rebuild()
{
    while (QLayoutItem* item = m_cards->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_order->clear();
    if (!m_playhead.scene()) return;
    const Review& review = m_playhead.scene()->review;
    int accepted = 0;
    const std::vector<Correction> corrections = ordered();
    for (const Correction& c : corrections)
        accepted +=
            m_library.choice(m_review, QString::fromStdString(c.fault)).decision == Decision::Accepted;
    m_title->setText(
        corrections.empty()
            ? tr("Slip for %1").arg(m_name)
            : tr("Slip for %1 · %2 of %3 accepted").arg(m_name).arg(accepted).arg(corrections.size()));
    showDoubt();
    if (const auto& progress = m_playhead.scene()->progress)
        if (QWidget* line = progressLine(*progress, review, m_context, this)) m_cards->addWidget(line);
    addOverview(review);
    if (review.teach.empty())
        m_cards->addWidget(paragraph(
            tr("Nothing to correct can be claimed from this view. A clip from another side may show more."),
            1.0, QFont::Normal, m_theme.ink, this));
    for (const Correction& c : corrections) {
        m_cards->addWidget(card(c));
        auto* rule = new QFrame(this);
        rule->setFrameShape(QFrame::HLine);
        QPalette palette = rule->palette();
        palette.setColor(QPalette::WindowText, m_theme.line);
        rule->setPalette(palette);
        m_cards->addWidget(rule);
    }
    addActions(review, accepted);
    QString small;
    for (const std::string& note : review.notes)
        small += QString::fromStdString(note) + "\n";
    for (const std::string& line : review.cautions)
        small += QString::fromStdString(line) + " ";
    auto* caution = paragraph(small.trimmed(), 0.85, QFont::Normal, m_theme.quiet, this);
    caution->setObjectName("slip.cautions");
    m_cards->addWidget(caution);
    m_cards->addStretch(1);
}

} // namespace jl
