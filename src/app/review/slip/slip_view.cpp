#include "app/review/slip/slip_view.h"
#include "app/review/model/change_command.h"
#include "app/review/slip/card_order.h"
#include "app/theme/label.h"
#include "app/theme/mark.h"
#include "exchange/plan_calendar.h"
#include "review/cautions.h"
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QUndoStack>
#include <QVBoxLayout>
#include <algorithm>
#include <set>

namespace jl
{
namespace
{

/// A status shape as a small widget.
class MarkLabel : public QWidget
{
public:
    MarkLabel(Mark mark, const Theme& theme, QWidget* parent) : QWidget(parent), m_mark(mark), m_theme(theme)
    {
        setFixedSize(18, 18);
        setToolTip(markName(mark));
        setAccessibleName(markName(mark));
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        drawMark(p, {9, 9}, 14, m_mark, m_theme);
    }

private:
    Mark m_mark;
    const Theme& m_theme;
};

QLabel* words(const QString& text, double size, int weight, const QColor& colour, QWidget* parent)
{
    QLabel* line = label(text, size, weight, colour, parent);
    line->setWordWrap(true);
    return line;
}

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
    m_title = words({}, 1.1, QFont::DemiBold, m_theme.ink, this);
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
    auto* doubt = words(m_doubt, 1.0, QFont::DemiBold, m_theme.ink, this);
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

std::vector<Correction> SlipView::ordered() const
{
    std::vector<Correction> corrections = m_playhead.scene()->review.teach;
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

QWidget* SlipView::cueEditor(const Correction& c, const SlipChoice& choice, QWidget* card)
{
    auto* box = new QWidget(card);
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(0, 2, 0, 2);
    auto* text = new QPlainTextEdit(cueOf(c, choice), box);
    text->setObjectName("slip.cue");
    text->setAccessibleName(tr("Cue in your own words"));
    text->setTabChangesFocus(true);
    text->setFixedHeight(72);
    layout->addWidget(text);
    auto* row = new QHBoxLayout;
    auto* keep = new QPushButton(tr("keep these words"), box);
    keep->setObjectName("slip.cue.keep");
    auto* back = new QPushButton(tr("as proposed"), box);
    back->setObjectName("slip.cue.back");
    row->addWidget(keep);
    row->addWidget(back);
    row->addStretch(1);
    layout->addLayout(row);
    const auto store = [this, c, choice](const QString& cue) {
        SlipChoice changed = choice;
        changed.cue = cue == QString::fromStdString(c.cue) ? QString() : cue;
        m_rewording.clear();
        choose(QString::fromStdString(c.fault), changed, tr("reword"));
    };
    connect(keep, &QPushButton::clicked, this, [store, text] { store(text->toPlainText().simplified()); });
    connect(back, &QPushButton::clicked, this, [store] { store({}); });
    QMetaObject::invokeMethod(
        text, [text] { text->setFocus(); }, Qt::QueuedConnection);
    return box;
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
    auto* cause = button(tr("cause…"), "cause");
    cause->setToolTip(tr("File it under what you see as its cause; the program learns from it"));
    auto* menu = new QMenu(cause);
    std::set<std::string> listed{c.fault};
    for (const Finding& f : m_playhead.scene()->review.findings) {
        if (f.severity == Severity::Watch || !listed.insert(f.fault).second) continue;
        const QString other = QString::fromStdString(f.fault);
        connect(menu->addAction(QString::fromStdString(m_context.data.rules.find(f.fault)->name)),
                &QAction::triggered, this, [this, fault, other] { fileUnder(fault, other); });
    }
    if (c.chain.size() > 1) {
        menu->addSeparator();
        for (std::size_t i = 1; i < c.chain.size(); ++i) {
            const QString follower = QString::fromStdString(c.chain[i]);
            connect(menu->addAction(
                        tr("\"%1\" stands for itself")
                            .arg(QString::fromStdString(m_context.data.rules.find(c.chain[i])->name))),
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
    head->addWidget(
        words(QString::fromStdString(c.title), 1.0, QFont::Bold, quiet ? m_theme.quiet : m_theme.ink, card),
        1);
    if (m_playhead.scene()->review.teach.size() > 1)
        head->addWidget(m_order->handle(fault, QString::fromStdString(c.title), *card), 0, Qt::AlignTop);
    layout->addLayout(head);
    layout->addWidget(words(QString::fromStdString(c.chainText), 0.9, QFont::Normal, m_theme.indigo, card));
    const auto small = [&](const QString& text) {
        if (!text.isEmpty()) layout->addWidget(words(text, 0.9, QFont::Normal, m_theme.quiet, card));
    };
    if (choice.decision == Decision::Parked)
        small(tr("returns on %1").arg(QLocale().toString(choice.due, QLocale::ShortFormat)));
    if (choice.decision == Decision::SetAside) small(tr("set aside: %1").arg(reasonWords(choice.reason)));
    if (!quiet) {
        if (m_rewording == fault) {
            layout->addWidget(cueEditor(c, choice, card));
        } else {
            auto* cue = words(cueOf(c, choice), 1.0, QFont::Normal, m_theme.ink, card);
            cue->setObjectName(QString("slip.%1.text").arg(fault));
            layout->addWidget(cue);
        }
        small(QString::fromStdString(c.reason));
        small(tr("Drill: %1").arg(QString::fromStdString(c.drill)));
        small(tr("Why now: %1.").arg(QString::fromStdString(c.whyNow)));
        const QString progress = progressOf(c.fault);
        if (!progress.isEmpty()) small(tr("Since last time: %1.").arg(progress));
    }
    layout->addLayout(decisions(c, choice, card));
    if (!quiet) layout->addLayout(more(c, card));
    return card;
}

/// What was corrected before and is gone now: it deserves to be said.
void SlipView::addProgress(const Review& review)
{
    const auto& progress = m_playhead.scene()->progress;
    if (!progress) return;
    QStringList better;
    for (const FaultChange& c : progress->faults) {
        const bool taught = std::any_of(review.teach.begin(), review.teach.end(),
                                        [&](const Correction& t) { return t.fault == c.fault; });
        if (c.change == Change::Better && !taught)
            better << QString::fromStdString(m_context.data.rules.find(c.fault)->name + ": " + c.words);
    }
    if (!progress->incomparable.empty())
        better = {tr("Not comparable: %1").arg(QString::fromStdString(progress->incomparable))};
    if (better.isEmpty()) return;
    auto* line =
        words(tr("Since last time: %1.").arg(better.join("; ")), 0.95, QFont::Normal, m_theme.pine, this);
    line->setObjectName("slip.progress");
    m_cards->addWidget(line);
}

QWidget* SlipView::practice(int accepted)
{
    auto* box = new QWidget(this);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    auto* minutes = new QSpinBox(box);
    minutes->setObjectName("slip.minutes");
    minutes->setAccessibleName(tr("Minutes of practice a day"));
    minutes->setRange(5, 60);
    minutes->setSuffix(tr(" min a day"));
    const int kept = m_library.setting("practice.minutes").toInt();
    minutes->setValue(kept ? kept : 15);
    connect(minutes, &QSpinBox::valueChanged, this,
            [this](int value) { m_library.setSetting("practice.minutes", QString::number(value)); });
    auto* save = new QPushButton(tr("save the week's practice…"), box);
    save->setObjectName("slip.plan");
    save->setEnabled(accepted > 0);
    save->setToolTip(accepted > 0 ? tr("A calendar file with the accepted drills, day by day")
                                  : tr("Accept a correction first"));
    connect(save, &QPushButton::clicked, this, &SlipView::savePlan);
    row->addWidget(minutes);
    row->addWidget(save);
    row->addStretch(1);
    return box;
}

void SlipView::savePlan()
{
    const QString file = QFileDialog::getSaveFileName(this, tr("Save the week's practice"),
                                                      tr("practice.ics"), tr("Calendar (*.ics)"));
    if (file.isEmpty()) return;
    const Review& review = m_playhead.scene()->review;
    PlanRequest request;
    const QDate today = QDate::currentDate();
    request.first = std::chrono::sys_days(std::chrono::days(QDate(1970, 1, 1).daysTo(today)));
    request.minutesPerDay = findChild<QSpinBox*>("slip.minutes")->value();
    request.section = m_context.data.standards.form(review.form)->name;
    for (const Correction& c : ordered())
        if (m_library.choice(m_review, QString::fromStdString(c.fault)).decision == Decision::Accepted)
            request.drills.push_back(drillOf(c, *m_context.data.rules.find(c.fault), request.first));
    const auto plan = planPractice(request);
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
    for (const Correction& c : review.teach)
        accepted +=
            m_library.choice(m_review, QString::fromStdString(c.fault)).decision == Decision::Accepted;
    m_title->setText(
        review.teach.empty()
            ? tr("Slip for %1").arg(m_name)
            : tr("Slip for %1 · %2 of %3 accepted").arg(m_name).arg(accepted).arg(review.teach.size()));
    showDoubt();
    addProgress(review);
    if (review.teach.empty())
        m_cards->addWidget(words(
            tr("Nothing to correct can be claimed from this view. A clip from another side may show more."),
            1.0, QFont::Normal, m_theme.ink, this));
    for (const Correction& c : ordered()) {
        m_cards->addWidget(card(c));
        auto* rule = new QFrame(this);
        rule->setFrameShape(QFrame::HLine);
        QPalette palette = rule->palette();
        palette.setColor(QPalette::WindowText, m_theme.line);
        rule->setPalette(palette);
        m_cards->addWidget(rule);
    }
    if (!review.teach.empty()) m_cards->addWidget(practice(accepted));
    QString small;
    for (const std::string& note : review.notes)
        small += QString::fromStdString(note) + "\n";
    for (const std::string& line : cautions())
        small += QString::fromStdString(line) + " ";
    auto* caution = words(small.trimmed(), 0.85, QFont::Normal, m_theme.quiet, this);
    caution->setObjectName("slip.cautions");
    m_cards->addWidget(caution);
    m_cards->addStretch(1);
}

} // namespace jl
