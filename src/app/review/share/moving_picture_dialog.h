#pragma once
#include "app/jobs/export_jobs.h"
#include "app/shell/context.h"
#include "draw/pair_clip.h"
#include <QDialog>

class QCheckBox;
class QComboBox;
class QPushButton;
class QSpinBox;

namespace jl
{

class PairPreview;

/// Of what a moving picture can be made.
struct MovingPictureSource {
    std::shared_ptr<const ReviewScene> scene;
    PictureFiles files;
    QString name;                         ///< of the files, without an ending
    Slip slip;                            ///< what was accepted
    std::vector<PairPassage> corrections; ///< its moments
    std::optional<PairPassage> posture;   ///< the one under the playhead
    bool hasSound = false;                ///< the student's clip has one
};

/// Student and reference in step as a moving picture (MP4) or as pictures (PNG): what is shown, how, and a
/// look at it. It is written in the background, so that the dialog may be closed.
class MovingPictureDialog : public QDialog
{
    Q_OBJECT

public:
    MovingPictureDialog(MovingPictureSource source, const Context& context, ExportJobs& jobs,
                        QWidget* parent = nullptr);

    PairClipRequest request() const;
    /// Writes the moving picture to a file in the background.
    void saveTo(const QString& file);
    /// Writes a picture of each moment into a folder in the background.
    void saveStillsTo(const QString& folder);
    /// The same of the built-in performer's right and wrong of each correction.
    void saveStripsTo(const QString& folder);

private:
    QWidget* buildSide();
    QComboBox* choice(const QString& name, const char* id, const QStringList& ways, QWidget* side);
    void preview();
    void askAndSave();
    QPushButton* folderButton(const QString& text, const char* id,
                              void (MovingPictureDialog::*save)(const QString&));

    const MovingPictureSource m_source;
    Context m_context;
    ExportJobs& m_jobs;
    PairPreview* m_preview = nullptr;
    QComboBox *m_what = nullptr, *m_layout = nullptr, *m_shape = nullptr, *m_tempo = nullptr;
    QSpinBox* m_times = nullptr;
    QCheckBox *m_breath = nullptr, *m_sound = nullptr;
};

} // namespace jl
