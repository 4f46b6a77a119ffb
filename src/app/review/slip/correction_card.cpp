#include "app/review/slip/correction_card.h"
#include "app/review/slip/card_order.h"
#include "app/review/slip/cue_editor.h"
#include "app/theme/label.h"
#include "app/theme/mark_label.h"
#include <QHBoxLayout>
#include <QLocale>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{
namespace
{

QString reasonWords(const QString& reason)
{
    if (reason == "variant") return CorrectionCard::tr("another school's way");
    if (reason == "limit") return CorrectionCard::tr("a limit of this body");
    if (reason == "wrong") return CorrectionCard::tr("measured wrong");
    return {};
}

/// The cue as the student will read it.
QString cueOf(const CardContent& content)
{
    return content.choice.cue.isEmpty() ? QString::fromStdString(content.correction.cue) : content.choice.cue;
}

} // namespace

CorrectionCard::CorrectionCard(const CardContent& content, CardOrder* order, const Theme& theme,
                               QWidget* parent)
    : QWidget(parent), m_content(content), m_theme(theme),
      m_fault(QString::fromStdString(content.correction.fault)),
      m_name(QString::fromStdString(content.correction.title))
{
    setObjectName("slip." + m_fault + ".card");
    m_layout = new QVBoxLayout(this);
    m_layout->setContentsMargins(8, 6, 6, 6);
    m_layout->setSpacing(4);
    addHead(order);
    addCue();
    addDecisions();
    if (m_content.unfolded) {
        addReasons();
        addFurther();
    }
}

bool CorrectionCard::isQuiet() const
{
    return m_content.choice.decision == Decision::SetAside || m_content.choice.decision == Decision::Parked;
}

QPushButton* CorrectionCard::button(const QString& text, const char* name, QHBoxLayout* row)
{
    auto* b = new QPushButton(text, this);
    b->setObjectName(QString("slip.%1.%2").arg(m_fault, name));
    b->setAccessibleName(tr("%1: %2").arg(text, m_name));
    row->addWidget(b);
    return b;
}

void CorrectionCard::addHead(CardOrder* order)
{
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    const bool safety = m_content.correction.severity == Severity::Safety;
    head->addWidget(new MarkLabel(safety ? Mark::Safety : Mark::Fault, m_theme, this), 0, Qt::AlignTop);
    head->addWidget(paragraph(m_name, 1.05, QFont::Bold, isQuiet() ? m_theme.quiet : m_theme.ink, this), 1);
    if (order) head->addWidget(order->handle(m_fault, m_name, *this), 0, Qt::AlignTop);
    m_layout->addLayout(head);
}

void CorrectionCard::addCue()
{
    const SlipChoice& choice = m_content.choice;
    QString words = cueOf(m_content);
    if (choice.decision == Decision::Parked)
        words = tr("returns on %1").arg(QLocale().toString(choice.due, QLocale::ShortFormat));
    if (choice.decision == Decision::SetAside) words = tr("set aside: %1").arg(reasonWords(choice.reason));
    if (m_content.rewording && !isQuiet()) {
        auto* editor = new CueEditor(words, this);
        connect(editor, &CueEditor::kept, this, &CorrectionCard::cueKept);
        m_layout->addWidget(editor);
        return;
    }
    auto* cue = paragraph(words, 1.0, QFont::Normal, isQuiet() ? m_theme.quiet : m_theme.ink, this);
    cue->setObjectName(QString("slip.%1.text").arg(m_fault));
    m_layout->addWidget(cue);
}

void CorrectionCard::addDecisions()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const Decision decided = m_content.choice.decision;
    const auto decision = [&](const QString& text, Decision d, const char* name) {
        auto* b = button(text, name, row);
        b->setCheckable(true);
        b->setChecked(decided == d);
        if (d != Decision::SetAside)
            connect(b, &QPushButton::clicked, this, [this, d] { emit this->decided(d, {}); });
        return b;
    };
    decision(decided == Decision::Accepted ? tr("accepted") : tr("accept"), Decision::Accepted, "accept")
        ->setToolTip(tr("Goes on the slip and into the practice plan (Enter)"));
    decision(decided == Decision::Parked ? tr("parked") : tr("park"), Decision::Parked, "park")
        ->setToolTip(
            tr("Put off for %n day(s); it returns when it is due (Backspace)", nullptr, kParkedDays));
    m_aside = decision(tr("set aside…"), Decision::SetAside, "set-aside");
    m_aside->setToolTip(tr("It does not apply to this student (X)"));
    addAsideMenu(*m_aside);
    row->addStretch(1);
    auto* more = button(m_content.unfolded ? tr("less") : tr("why?"), "more", row);
    more->setFlat(true);
    more->setToolTip(tr("What it comes from, the drill, and more to do with it (Y)"));
    connect(more, &QPushButton::clicked, this, [this] { emit unfoldWanted(!m_content.unfolded); });
    m_layout->addLayout(row);
}

void CorrectionCard::addAsideMenu(QPushButton& aside)
{
    auto* menu = new QMenu(&aside);
    for (const char* reason : {"variant", "limit", "wrong"}) {
        QAction* action = menu->addAction(reasonWords(reason));
        action->setObjectName(QString("slip.%1.%2").arg(m_fault, reason));
        connect(action, &QAction::triggered, this,
                [this, reason] { emit decided(Decision::SetAside, reason); });
    }
    if (m_content.choice.decision == Decision::SetAside)
        connect(menu->addAction(tr("take it back")), &QAction::triggered, this,
                [this] { emit decided(Decision::SetAside, m_content.choice.reason); });
    aside.setMenu(menu);
}

void CorrectionCard::askWhyAside()
{
    m_aside->showMenu();
}

void CorrectionCard::addReasons()
{
    const Correction& c = m_content.correction;
    m_layout->addWidget(
        paragraph(isOwnFinding(c.fault) ? tr("your own finding") : QString::fromStdString(c.chainText), 0.95,
                  QFont::Normal, m_theme.indigo, this));
    const auto line = [&](const QString& words) {
        if (!words.isEmpty()) m_layout->addWidget(paragraph(words, 0.95, QFont::Normal, m_theme.quiet, this));
    };
    line(QString::fromStdString(c.reason));
    if (!c.drill.empty()) line(tr("Drill: %1").arg(QString::fromStdString(c.drill)));
    line(tr("Why now: %1.").arg(QString::fromStdString(c.whyNow)));
    if (!m_content.progress.isEmpty()) line(tr("Since last time: %1.").arg(m_content.progress));
}

void CorrectionCard::addFurther()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const auto flat = [&](const QString& text, const char* name) {
        auto* b = button(text, name, row);
        b->setFlat(true);
        return b;
    };
    auto* show = flat(tr("show"), "show");
    show->setToolTip(tr("Go to its clearest moment"));
    connect(show, &QPushButton::clicked, this, &CorrectionCard::showWanted);
    connect(flat(tr("reword"), "reword"), &QPushButton::clicked, this, &CorrectionCard::rewordWanted);
    if (isOwnFinding(m_content.correction.fault)) {
        connect(flat(tr("take away"), "remove"), &QPushButton::clicked, this, &CorrectionCard::removeWanted);
    } else {
        auto* cause = flat(tr("cause…"), "cause");
        cause->setToolTip(tr("File it under what you see as its cause; the program learns from it"));
        cause->setMenu(causeMenu(cause));
        cause->setEnabled(!cause->menu()->isEmpty());
    }
    row->addStretch(1);
    m_layout->addLayout(row);
}

QMenu* CorrectionCard::causeMenu(QWidget* parent)
{
    auto* menu = new QMenu(parent);
    for (const auto& [fault, name] : m_content.causes)
        connect(menu->addAction(name), &QAction::triggered, this,
                [this, cause = fault] { emit filed(m_fault, cause); });
    if (!m_content.followers.empty()) menu->addSeparator();
    for (const auto& [fault, name] : m_content.followers)
        connect(menu->addAction(tr("\"%1\" stands for itself").arg(name)), &QAction::triggered, this,
                [this, follower = fault] { emit filed(follower, QString("")); });
    if (m_content.filedUnder)
        connect(menu->addAction(tr("as the program sees it")), &QAction::triggered, this,
                [this] { emit filed(m_fault, {}); });
    return menu;
}

void CorrectionCard::mousePressEvent(QMouseEvent*)
{
    emit showWanted();
}

void CorrectionCard::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(m_theme.line);
    p.setBrush(m_content.chosen ? m_theme.chosen : m_theme.raised);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
}

} // namespace jl
