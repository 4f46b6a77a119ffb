#pragma once
#include "app/shell/context.h"
#include "draw/slip_export.h"
#include <QDialog>
#include <QFutureWatcher>

class QLabel;
class QListWidget;
class QPushButton;

namespace jl
{

/// The page for the student, as it is printed and saved: A5 or A4, as PDF, as a web page, or as text. What is
/// saved or copied is kept in the library as it was; earlier pages can be looked at again.
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

private:
    QWidget* buildSide();
    void makePage();
    void showPage();
    void showSent(int row);
    void askAndSave(const QString& ending, const QString& kind);
    void copyText();
    void keep(const QString& way);
    void fillSent();
    void say(const QString& words, bool wrong = false);
    PaperSize paper() const;

    const std::shared_ptr<const ReviewScene> m_scene;
    const Slip m_slip;
    const PictureFiles m_files;
    const qint64 m_review;
    Context m_context;
    QFutureWatcher<std::shared_ptr<const Result<std::vector<SlipPictures>>>> m_making;
    std::optional<SlipPage> m_page;
    QLabel* m_preview = nullptr;
    QLabel* m_said = nullptr;
    QListWidget* m_sent = nullptr;
    QPushButton* m_folderButton = nullptr;
    QList<QPushButton*> m_needsPage; ///< buttons that wait for the pictures
    QString m_savedIn;
    bool m_a4 = false;
};

} // namespace jl
