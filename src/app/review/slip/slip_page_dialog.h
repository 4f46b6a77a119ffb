#pragma once
#include "app/shell/context.h"
#include "draw/slip_export.h"
#include <QDialog>
#include <QFutureWatcher>
#include <QPointer>

class QLabel;
class QListWidget;
class QPushButton;

namespace jl
{

class CueEditor;

/// The page for the student, as it is printed and saved: A5 or A4, as PDF, as a web page, or as text. A cue
/// that is clicked on is put in other words where it stands. What is saved, printed or handed on is kept in
/// the library as it was; earlier pages can be looked at again.
class SlipPageDialog : public QDialog
{
    Q_OBJECT

public:
    /// `folder` starts the file dialog: where slips were saved last.
    SlipPageDialog(std::shared_ptr<const ReviewScene> scene, Slip slip, PictureFiles files, qint64 review,
                   const Context& context, QWidget* parent = nullptr);
    ~SlipPageDialog() override; ///< waits for pictures that are being made

    /// Writes the slip to a file, by its ending, and keeps it as sent.
    void saveTo(const QString& file);

signals:
    /// The instructor put a correction in other words on the page.
    void reworded(const QString& fault, const QString& cue);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* buildSide();
    void makePage();
    void showPage();
    void showSent(int row);
    void askAndSave(const QString& ending, const QString& kind);
    void copyText();
    void print();
    void mail();
    void editAt(const QPointF& place);
    void keepCue(std::size_t item, const QString& cue);
    void keep(const QString& way);
    void fillSent();
    void say(const QString& words, bool wrong = false);
    PaperSize paper() const;

    const std::shared_ptr<const ReviewScene> m_scene;
    Slip m_slip;
    const PictureFiles m_files;
    const qint64 m_review;
    Context m_context;
    QFutureWatcher<std::shared_ptr<const Result<std::vector<SlipPictures>>>> m_making;
    std::optional<SlipPage> m_page;
    QLabel* m_preview = nullptr;
    QPointer<CueEditor> m_editor; ///< over the cue that is being put in other words
    QLabel* m_said = nullptr;
    QListWidget* m_sent = nullptr;
    QPushButton* m_folderButton = nullptr;
    QList<QPushButton*> m_needsPage; ///< buttons that wait for the pictures
    QString m_savedIn;
    bool m_a4 = false;
};

} // namespace jl
