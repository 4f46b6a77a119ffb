#pragma once
#include "app/desk/clip_card.h"
#include "app/jobs/clip_intake.h"

class QVBoxLayout;

namespace jl
{

/// The clips that wait, are worked on, or are ready. A video or a bundle dropped anywhere here is brought in.
class DeskPage : public QWidget
{
    Q_OBJECT

public:
    DeskPage(const Context& context, ClipIntake& intake, QWidget* parent = nullptr);

public slots:
    void refresh();

signals:
    void openRequested(qint64 clip);
    void lookRequested(qint64 clip);             ///< only what matters most
    void filesBrought(const QStringList& files); ///< videos or bundles, chosen or dropped

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void chooseFiles();
    void loadStill(ClipCard* card, const QString& file);

    Context m_context;
    ClipIntake& m_intake;
    QVBoxLayout* m_list = nullptr;
    std::vector<ClipCard*> m_cards;
};

} // namespace jl
