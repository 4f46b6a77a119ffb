#include "app/review/page/review_header.h"
#include "app/review/page/student_limits_dialog.h"
#include "app/theme/choice_box.h"
#include "app/theme/icon.h"
#include "app/theme/label.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>

namespace jl
{
namespace
{

void select(QComboBox& box, const std::optional<qint64>& id)
{
    box.setCurrentIndex(id ? std::max(0, box.findData(*id)) : 0);
}

std::optional<qint64> selected(const QComboBox& box)
{
    const QVariant id = box.currentData();
    return id.isNull() ? std::nullopt : std::optional(id.toLongLong());
}

} // namespace

ReviewHeader::ReviewHeader(OpenReview& review, const Context& context, QWidget* parent)
    : QWidget(parent), m_review(review), m_context(context)
{
    const Theme& t = m_context.theme;
    setFixedHeight(48);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 4, 12, 4);
    row->setSpacing(6);
    m_name = label({}, 1.35, QFont::Bold, t.ink, this);
    m_name->setObjectName("review.student");
    m_about = label({}, 1.0, QFont::Normal, t.quiet, this);
    m_limits = new QPushButton(this);
    m_limits->setObjectName("review.limits");
    m_limits->setAccessibleName(tr("Limits of the student"));
    m_limits->setToolTip(tr("What this body should not do: it caps what is asked, whatever the school says"));
    m_limits->hide();
    connect(m_limits, &QPushButton::clicked, this, &ReviewHeader::editLimits);
    row->addWidget(m_name);
    row->addWidget(m_about);
    row->addWidget(m_limits);
    row->addStretch(1);
    const auto choice = [&](const QString& text, const QString& name, const char* id) {
        auto* caption = label(text, 0.9, QFont::Normal, t.quiet, this);
        auto* box = new ChoiceBox(name, 230, this);
        box->setObjectName(id);
        caption->setBuddy(box);
        row->addWidget(caption);
        row->addWidget(box);
        return box;
    };
    m_clip = choice(tr("clip"), tr("Clip of this student"), "review.clip");
    m_second = choice(tr("with"), tr("Second view of this student"), "review.second");
    m_second->setToolTip(
        tr("Another clip from another side: each measure is taken from the view that shows it best, and from "
           "both in space where they were filmed at once; the side together with the front tells most"));
    m_reference = choice(tr("against"), tr("Reference"), "review.reference");
    m_form = choice(tr("form"), tr("Form or posture that was performed"), "review.form");
    m_form->setToolTip(tr("What was performed: a form, a section of one, or a single posture"));
    auto* save = new QPushButton(this);
    setPictured(*save, "file-down", t);
    save->setObjectName("review.export");
    save->setAccessibleName(tr("Export the review"));
    save->setToolTip(tr("Save the review, its values or all of it as a file (Ctrl+E)"));
    auto* menu = new QMenu(save);
    const auto way = [&](const QString& text, const char* id, auto act) {
        QAction* action = menu->addAction(text);
        action->setObjectName(id);
        connect(action, &QAction::triggered, this, act);
    };
    way(tr("review with all its values…"), "export.review", [this] { exportAs(ReviewExport::Review); });
    way(tr("measures of every picture, as a table…"), "export.measures",
        [this] { exportAs(ReviewExport::Measures); });
    way(tr("captions of the clip…"), "export.captions", [this] { exportAs(ReviewExport::Captions); });
    menu->addSeparator();
    way(tr("bundle for another instructor…"), "export.bundle", [this] { exportAs(ReviewExport::Bundle); });
    way(tr("bundle with the video…"), "export.bundle-video",
        [this] { exportAs(ReviewExport::BundleWithVideo); });
    save->setMenu(menu);
    save->setShortcut(QKeySequence("Ctrl+E"));
    row->addWidget(save);
    connect(m_clip, &QComboBox::activated, this,
            [this] { m_review.open(m_clip->currentData().toLongLong()); });
    for (const QComboBox* box : {m_second, m_reference, m_form})
        connect(box, &QComboBox::activated, this, &ReviewHeader::choose);
    connect(&m_review, &OpenReview::chosen, this, &ReviewHeader::fill);
}

void ReviewHeader::fill()
{
    nameStudent();
    fillClips();
    fillForms();
    for (QComboBox* box : {m_clip, m_second, m_reference, m_form})
        box->updateGeometry(); // filled without signals
}

void ReviewHeader::nameStudent()
{
    const std::optional<StudentRow>& student = m_review.student();
    m_name->setText(m_review.studentName());
    QString about = tr("student not named yet");
    if (student) {
        const LevelStandard* level = m_context.data.standards.level(student->level.toStdString());
        about = level ? QString::fromStdString(level->name).toLower() : student->level;
        m_limits->setText(limitsSummary(*student));
    }
    m_about->setText(about);
    m_limits->setVisible(student.has_value());
}

void ReviewHeader::fillClips()
{
    const QSignalBlocker a(m_clip), b(m_second), c(m_reference);
    const ClipRow& open = m_review.clip();
    m_clip->clear();
    m_second->clear();
    m_second->addItem(tr("one view"), QVariant());
    m_reference->clear();
    m_reference->addItem(tr("built-in performer"), QVariant());
    for (const ClipRow& clip : m_context.library.clips()) {
        if (clip.state != ClipState::Ready) continue;
        if (clip.reference)
            m_reference->addItem(clip.title, clip.id);
        else if (clip.id == open.id || (clip.studentId && clip.studentId == open.studentId)) {
            m_clip->addItem(clip.title, clip.id);
            if (clip.id != open.id) m_second->addItem(clip.title, clip.id);
        }
    }
    m_second->setEnabled(m_second->count() > 1);
    select(*m_second, m_review.choices().secondId);
    select(*m_reference, m_review.choices().referenceId);
    m_clip->setCurrentIndex(m_clip->findData(open.id));
}

void ReviewHeader::fillForms()
{
    const QSignalBlocker quiet(m_form);
    m_form->clear();
    const auto addForms = [this](bool single) {
        for (const FormStandard& form : m_context.data.standards.forms)
            if (form.single == single)
                m_form->addItem(QString::fromStdString(form.name), QString::fromStdString(form.id));
    };
    addForms(false);
    m_form->insertSeparator(m_form->count());
    addForms(true);
    m_form->setCurrentIndex(m_form->findData(m_review.choices().form));
}

void ReviewHeader::choose()
{
    ReviewRow row = m_review.choices();
    row.referenceId = selected(*m_reference);
    row.secondId = selected(*m_second);
    row.form = m_form->currentData().toString();
    m_review.choose(row);
}

void ReviewHeader::editLimits()
{
    if (!m_review.student()) return;
    StudentLimitsDialog dialog(*m_review.student(), m_context.theme, this);
    if (dialog.exec() == QDialog::Accepted) m_review.updateStudent(dialog.student());
}

void ReviewHeader::exportAs(ReviewExport what)
{
    if (!m_review.isShown()) return emit m_review.message(tr("There is no review to export yet."));
    emit exportWanted(what);
}

} // namespace jl
