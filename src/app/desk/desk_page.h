#pragma once
#include "app/desk/clip_card.h"

class QVBoxLayout;

namespace jl
{

/// The clips that wait, are worked on, or are ready. A video dropped anywhere here is brought in.
class DeskPage : public QWidget
{
    Q_OBJECT

public:
    explicit DeskPage(const Context& context, QWidget* parent = nullptr);

    /// Brings files in and starts their extraction; files that are no video are refused with a message.
    void addFiles(const QStringList& files);
    /// Goes on with every clip whose extraction has not finished.
    void resumeWaiting();

public slots:
    void refresh();

signals:
    void openRequested(qint64 clip);
    void message(const QString& text);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void connectQueue();
    void chooseFiles();
    void loadStill(ClipCard* card, const QString& file);

    Context m_context;
    QVBoxLayout* m_list = nullptr;
    std::vector<ClipCard*> m_cards;
};

} // namespace jl
