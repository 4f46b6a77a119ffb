#include "app/review/bench/mend_panel.h"
#include "app/review/page/limits_dialog.h"
#include "app/review/page/review_page.h"
#include "app/theme/choice_box.h"
#include "app/theme/icon.h"
#include "app/theme/label.h"
#include "base/json_file.h"
#include "exchange/review_file.h"
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>

// The header of a review: what is compared with what, and by which measure; every choice is kept and makes
// the review anew.

namespace jl
{

QWidget* ReviewPage::buildHeader()
{
    const Theme& t = m_context.theme;
    auto* header = new QWidget(this);
    header->setFixedHeight(48);
    auto* row = new QHBoxLayout(header);
    row->setContentsMargins(16, 4, 12, 4);
    row->setSpacing(8);
    m_name = label({}, 1.35, QFont::Bold, t.ink, header);
    m_name->setObjectName("review.student");
    m_about = label({}, 1.0, QFont::Normal, t.quiet, header);
    m_limits = new QPushButton(header);
    m_limits->setObjectName("review.limits");
    m_limits->setAccessibleName(tr("Limits of the student"));
    m_limits->setToolTip(tr("What this body should not do: it caps what is asked, whatever the school says"));
    m_limits->hide();
    connect(m_limits, &QPushButton::clicked, this, &ReviewPage::editLimits);
    row->addWidget(m_name);
    row->addWidget(m_about);
    row->addWidget(m_limits);
    row->addStretch(1);
    const auto choice = [&](const QString& text, const QString& name) {
        auto* caption = label(text, 0.9, QFont::Normal, t.quiet, header);
        auto* box = new ChoiceBox(name, 190, header);
        caption->setBuddy(box);
        row->addWidget(caption);
        row->addWidget(box);
        return box;
    };
    m_clipChoice = choice(tr("clip"), tr("Clip of this student"));
    m_secondChoice = choice(tr("with"), tr("Second view of this student"));
    m_secondChoice->setObjectName("review.second");
    m_secondChoice->setToolTip(
        tr("Another clip from another side: each measure is taken from the view that shows it best, and from "
           "both in space where they were filmed at once; the side together with the front tells most"));
    m_referenceChoice = choice(tr("against"), tr("Reference"));
    m_formChoice = choice(tr("form"), tr("Form or posture that was performed"));
    m_clipChoice->setObjectName("review.clip");
    m_referenceChoice->setObjectName("review.reference");
    m_formChoice->setObjectName("review.form");
    m_formChoice->setToolTip(tr("What was performed: a form, a section of one, or a single posture"));
    auto* save = new QPushButton(header);
    setPictured(*save, "file-down", t);
    save->setObjectName("review.export");
    save->setAccessibleName(tr("Export the review"));
    save->setToolTip(tr("Save the review with all its values as a file (Ctrl+E)"));
    save->setShortcut(QKeySequence("Ctrl+E"));
    connect(save, &QPushButton::clicked, this, &ReviewPage::exportReview);
    row->addWidget(save);
    connect(m_clipChoice, &QComboBox::activated, this,
            [this] { open(m_clipChoice->currentData().toLongLong()); });
    connect(m_referenceChoice, &QComboBox::activated, this, &ReviewPage::changeChoices);
    connect(m_formChoice, &QComboBox::activated, this, &ReviewPage::changeChoices);
    connect(m_secondChoice, &QComboBox::activated, this, &ReviewPage::changeChoices);
    return header;
}

/// As the command line prints it, so that other programs can go on with it.
void ReviewPage::exportReview()
{
    const auto bundle = m_playhead.sharedBundle();
    // While another clip is measured, or cannot be, the playhead still holds the review before.
    if (!bundle || m_content->isHidden() || m_shownClip != m_clip->id)
        return emit message(tr("There is no review to export yet."));
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Export the review"), tr("review.json"), tr("Review (*.json)"));
    if (file.isEmpty()) return;
    const auto* progress = bundle->progress ? &*bundle->progress : nullptr;
    const auto saved = writeText(file.toStdString(), reviewJson(bundle->review, progress));
    emit message(saved ? tr("The review is in %1.").arg(file)
                       : QString::fromStdString(saved.error().message()));
}

void ReviewPage::nameStudent()
{
    m_name->setText(m_student ? m_student->name : m_clip->title);
    QString about = tr("student not named yet");
    if (m_student) {
        const LevelStandard* level = m_context.data.standards.level(m_student->level.toStdString());
        about = level ? QString::fromStdString(level->name).toLower() : m_student->level;
    }
    m_about->setText(about);
    m_limits->setVisible(m_student.has_value());
    if (m_student) m_limits->setText(limitsSummary(*m_student));
}

/// What was chosen in the header is kept, and the review is made anew.
void ReviewPage::changeChoices()
{
    if (!m_clip) return;
    const auto idOf = [](const QComboBox* box) {
        const QVariant id = box->currentData();
        return id.isNull() ? std::nullopt : std::optional(id.toLongLong());
    };
    m_row.referenceId = idOf(m_referenceChoice);
    m_row.secondId = idOf(m_secondChoice);
    m_row.school = m_schoolChoice->currentData().toString();
    m_row.form = m_formChoice->currentData().toString();
    m_context.library.setSetting(kLastForm, m_row.form); // the class goes on with it
    if (m_yardstick->isEnabled()) m_row.yardstick = m_yardstick->currentData().toString();
    const auto saved = m_context.library.updateReview(m_row);
    if (!saved) emit message(QString::fromStdString(saved.error().message()));
    fillChoices();
    reload();
}

void ReviewPage::fillChoices()
{
    const QSignalBlocker a(m_clipChoice), b(m_referenceChoice), c(m_schoolChoice), d(m_secondChoice),
        f(m_formChoice);
    m_secondChoice->clear();
    m_secondChoice->addItem(tr("one view"), QVariant());
    m_clipChoice->clear();
    m_referenceChoice->clear();
    m_schoolChoice->clear();
    m_referenceChoice->addItem(tr("built-in performer"), QVariant());
    for (const ClipRow& clip : m_context.library.clips()) {
        if (clip.state != ClipState::Ready) continue;
        if (clip.reference)
            m_referenceChoice->addItem(clip.title, clip.id);
        else if (clip.id == m_clip->id || (clip.studentId && clip.studentId == m_clip->studentId)) {
            m_clipChoice->addItem(clip.title, clip.id);
            if (clip.id != m_clip->id) m_secondChoice->addItem(clip.title, clip.id);
        }
    }
    m_secondChoice->setEnabled(m_secondChoice->count() > 1);
    m_secondChoice->setCurrentIndex(m_row.secondId ? std::max(0, m_secondChoice->findData(*m_row.secondId))
                                                   : 0);
    for (const SchoolStandard& s : m_context.data.standards.schools)
        m_schoolChoice->addItem(QString::fromStdString(s.name), QString::fromStdString(s.id));
    m_formChoice->clear();
    const auto addForms = [this](bool single) {
        for (const FormStandard& form : m_context.data.standards.forms)
            if (form.single == single)
                m_formChoice->addItem(QString::fromStdString(form.name), QString::fromStdString(form.id));
    };
    addForms(false);
    m_formChoice->insertSeparator(m_formChoice->count());
    addForms(true);
    m_formChoice->setCurrentIndex(m_formChoice->findData(m_row.form));
    m_clipChoice->setCurrentIndex(m_clipChoice->findData(m_clip->id));
    m_referenceChoice->setCurrentIndex(
        m_row.referenceId ? std::max(0, m_referenceChoice->findData(*m_row.referenceId)) : 0);
    m_schoolChoice->setCurrentIndex(m_schoolChoice->findData(m_row.school));
    const QSignalBlocker e(m_yardstick);
    m_yardstick->setEnabled(m_row.referenceId.has_value()); // the built-in performer keeps to the standard
    m_yardstick->setCurrentIndex(m_row.referenceId ? std::max(0, m_yardstick->findData(m_row.yardstick))
                                                   : m_yardstick->findData("standard"));
}

Result<ReviewPage::Wish> ReviewPage::wish() const
{
    const Library& library = m_context.library;
    auto student = library.packedTrack(m_clip->id);
    if (!student) return student.error();
    Wish wish;
    wish.student = std::move(*student);
    wish.file = m_clip->file.toStdString();
    BundleRequest& request = wish.request;
    request.known = m_mendPanel->knowledge();
    if (m_student) {
        request.studentProfile = {m_student->height, m_student->footLength};
        request.level = m_student->level.toStdString();
        request.limits = m_student->bodyLimits;
        request.memory = library.memoryFor(m_row, QDate::currentDate());
        request.earlier = library.earlierRecords(m_row);
    }
    request.form = m_row.form.toStdString();
    request.school = m_row.school.toStdString();
    request.yardstick = yardstickFromName(m_row.yardstick.toStdString()).value_or(Yardstick::Reference);
    if (m_row.secondId)
        if (auto second = library.packedTrack(*m_row.secondId)) wish.second = std::move(*second);
    if (m_row.referenceId) {
        const auto reference = library.clip(*m_row.referenceId);
        auto points = library.packedTrack(*m_row.referenceId);
        if (reference && points) {
            wish.reference = std::move(*points);
            request.referenceProfile.height = reference->performerHeight;
        }
    }
    return wish;
}

void ReviewPage::editLimits()
{
    if (!m_student) return;
    LimitsDialog dialog(*m_student, m_context.theme, this);
    if (dialog.exec() != QDialog::Accepted) return;
    StudentRow changed = dialog.student();
    const auto saved = m_context.library.updateStudent(changed);
    if (!saved) return emit message(QString::fromStdString(saved.error().message()));
    m_student = changed;
    nameStudent();
    reload();
}

} // namespace jl
