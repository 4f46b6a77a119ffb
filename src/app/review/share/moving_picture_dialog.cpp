#include "app/review/share/moving_picture_dialog.h"
#include "app/review/share/pair_preview.h"
#include "app/review/share/save_folder.h"
#include "app/theme/choice_box.h"
#include "app/theme/label.h"
#include <QCheckBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <array>

namespace jl
{
namespace
{

constexpr int kSideWidth = 250, kLookWidth = 640, kLookHeight = 480; ///< pixels
constexpr std::array kTempos{0.25, 0.5, 1.0};

} // namespace

MovingPictureDialog::MovingPictureDialog(MovingPictureSource source, const Context& context, ExportJobs& jobs,
                                         QWidget* parent)
    : QDialog(parent), m_source(std::move(source)), m_context(context), m_jobs(jobs)
{
    setWindowTitle(tr("Moving picture"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(16, 16, 16, 16);
    layout->setSpacing(16);
    m_preview = new PairPreview({kLookWidth, kLookHeight}, this);
    m_preview->setObjectName("moving.preview");
    m_preview->setAccessibleName(tr("A look at the moving picture"));
    layout->addWidget(m_preview);
    layout->addWidget(buildSide());
    preview();
}

QComboBox* MovingPictureDialog::choice(const QString& name, const char* id, const QStringList& ways,
                                       QWidget* side)
{
    auto* box = new ChoiceBox(name, kSideWidth, side);
    box->setObjectName(id);
    box->addItems(ways);
    connect(box, &QComboBox::currentIndexChanged, this, &MovingPictureDialog::preview);
    side->layout()->addWidget(box);
    return box;
}

QWidget* MovingPictureDialog::buildSide()
{
    auto* side = new QWidget(this);
    side->setFixedWidth(kSideWidth);
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    QStringList what;
    if (!m_source.corrections.empty())
        what << tr("%n moment(s) on the slip", nullptr, static_cast<int>(m_source.corrections.size()));
    if (m_source.posture)
        what << tr("whole posture: %1").arg(QString::fromStdString(m_source.posture->title));
    m_what = choice(tr("What is shown"), "moving.what", what, side);
    m_layout = choice(tr("How the two are shown"), "moving.layout",
                      {tr("next to each other"), tr("the aim drawn over")}, side);
    m_shape = choice(tr("Shape"), "moving.shape", {tr("wide, for a screen"), tr("tall, for a phone")}, side);
    m_tempo = choice(tr("Tempo"), "moving.tempo",
                     {tr("a quarter as fast"), tr("half as fast"), tr("as fast")}, side);
    m_tempo->setCurrentIndex(1);
    m_times = new QSpinBox(side);
    m_times->setObjectName("moving.times");
    m_times->setAccessibleName(tr("How often each part is shown"));
    m_times->setRange(1, 10);
    m_times->setValue(2);
    m_times->setPrefix(tr("shown "));
    m_times->setSuffix(tr(" times"));
    layout->addWidget(m_times);
    m_breath = new QCheckBox(tr("with the breath"), side);
    m_breath->setObjectName("moving.breath");
    connect(m_breath, &QCheckBox::toggled, this, &MovingPictureDialog::preview);
    layout->addWidget(m_breath);
    m_sound =
        new QCheckBox(m_source.hasSound ? tr("with its sound") : tr("with its sound (it has none)"), side);
    m_sound->setObjectName("moving.sound");
    m_sound->setEnabled(m_source.hasSound);
    layout->addWidget(m_sound);
    auto* save = new QPushButton(tr("&Save as MP4…"), side);
    save->setObjectName("moving.save");
    save->setProperty("accent", true);
    save->setDefault(true);
    connect(save, &QPushButton::clicked, this, &MovingPictureDialog::askAndSave);
    auto* stills =
        folderButton(tr("Save as &pictures…"), "moving.stills", &MovingPictureDialog::saveStillsTo);
    stills->setToolTip(tr("A PNG of each moment"));
    auto* strips =
        folderButton(tr("Save &right and wrong…"), "moving.strips", &MovingPictureDialog::saveStripsTo);
    strips->setToolTip(tr("A PNG of each correction as the built-in performer shows it, where it can"));
    for (QPushButton* b : {save, stills, strips}) {
        b->setEnabled(!what.isEmpty());
        layout->addWidget(b);
    }
    strips->setEnabled(!m_source.corrections.empty());
    layout->addWidget(paragraph(tr("It is written while you go on. Nothing is sent by itself."), 0.95,
                                QFont::Normal, m_context.theme.quiet, side));
    layout->addStretch(1);
    auto* close = new QPushButton(tr("Close"), side);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    layout->addWidget(close);
    return side;
}

QPushButton* MovingPictureDialog::folderButton(const QString& text, const char* id,
                                               void (MovingPictureDialog::*save)(const QString&))
{
    auto* button = new QPushButton(text, this);
    button->setObjectName(id);
    connect(button, &QPushButton::clicked, this, [this, save] {
        const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the pictures"),
                                                                 m_context.library.setting(kStudentFolder));
        if (!folder.isEmpty()) (this->*save)(folder);
    });
    return button;
}

PairClipRequest MovingPictureDialog::request() const
{
    PairClipRequest request;
    request.style = {m_layout->currentIndex() == 1 ? PairLayout::Over : PairLayout::Beside,
                     m_shape->currentIndex() == 1 ? PairShape::Portrait : PairShape::Landscape,
                     m_breath->isChecked()};
    request.timing.tempo = kTempos[static_cast<std::size_t>(std::max(0, m_tempo->currentIndex()))];
    request.timing.times = m_times->value();
    request.timing.sound = m_sound->isChecked();
    const bool whole = m_source.posture && m_what->currentIndex() == m_what->count() - 1;
    request.passages = whole ? std::vector{*m_source.posture} : m_source.corrections;
    return request;
}

void MovingPictureDialog::preview()
{
    if (!m_sound) return; // still being built
    const PairClipRequest wanted = request();
    if (wanted.passages.empty())
        m_preview->say(tr("Accept a correction, or go to a posture, to make a picture of it."));
    else
        m_preview->show(m_source.scene, m_source.files, wanted.passages.front(), wanted.style);
}

void MovingPictureDialog::askAndSave()
{
    const QString folder = m_context.library.setting(kStudentFolder);
    QString file = QFileDialog::getSaveFileName(
        this, tr("Save the moving picture"),
        QDir(folder.isEmpty() ? QDir::homePath() : folder).filePath(m_source.name + ".mp4"),
        tr("Moving picture (*.mp4)"));
    if (file.isEmpty()) return;
    if (!file.endsWith(".mp4")) file += ".mp4";
    saveTo(file);
}

void MovingPictureDialog::saveTo(const QString& file)
{
    m_context.library.setSetting(kStudentFolder, QFileInfo(file).absolutePath());
    m_jobs.start(file, [source = m_source, wanted = request(), file](const Progress& progress) {
        return writePairClip(source.scene, source.files, wanted, Theme::paper(), file.toStdString(),
                             progress);
    });
    accept();
}

void MovingPictureDialog::saveStillsTo(const QString& folder)
{
    m_context.library.setSetting(kStudentFolder, folder);
    m_jobs.start(tr("pictures in %1").arg(folder),
                 [source = m_source, wanted = request(), folder](const Progress&) -> Result<Done> {
                     const auto written = writePairStills(source.scene, source.files, wanted, Theme::paper(),
                                                          {folder.toStdString(), source.name.toStdString()});
                     if (!written) return written.error();
                     return Done{};
                 });
    accept();
}

void MovingPictureDialog::saveStripsTo(const QString& folder)
{
    m_context.library.setSetting(kStudentFolder, folder);
    m_jobs.start(tr("right and wrong in %1").arg(folder),
                 [&data = m_context.data, source = m_source, folder](const Progress&) -> Result<Done> {
                     const auto written = writeFaultStrips(data, *source.scene, source.slip, Theme::paper(),
                                                           {folder.toStdString(), source.name.toStdString()});
                     if (!written) return written.error();
                     if (!written->empty()) return Done{};
                     return Error{Error::Kind::NothingFound,
                                  "the built-in performer cannot show any of these corrections",
                                  folder.toStdString(), "Show them yourself."};
                 });
    accept();
}

} // namespace jl
