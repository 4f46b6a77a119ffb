#pragma once
#include "app/jobs/clip_intake.h"
#include "app/shell/context.h"
#include <QWidget>

class QAbstractButton;
class QStackedWidget;

namespace jl
{

class DeskPage;
class MessageBar;
class ReviewPage;

/// The window: the rail of places at the left, the open place beside it, and a line for messages.
class MainWindow : public QWidget
{
    Q_OBJECT

public:
    explicit MainWindow(const Context& context, QWidget* parent = nullptr);
    ~MainWindow() override;

    enum Place { Desk, Review };
    void go(Place place);
    Place place() const;
    DeskPage& desk() { return *m_desk; }
    ClipIntake& intake() { return m_intake; }
    ReviewPage& review() { return *m_review; }

    /// Goes where the last session was: an open review, or the Desk. While a demo is being made it opens the
    /// first review as soon as everything is extracted.
    void restore();

public slots:
    void openReview(qint64 clip);
    void showMessage(const QString& text);
    /// Brings in videos, and opens bundles of other instructors.
    void bringIn(const QStringList& files);

private:
    void fitScreen();
    QWidget* buildRail();
    QWidget* buildLengthsButton();
    void openFirstReviewWhenDone();
    void openWhenExtracted(qint64 clip);

    Context m_context;
    ClipIntake m_intake;
    std::vector<QAbstractButton*> m_places;
    QStackedWidget* m_stack = nullptr;
    DeskPage* m_desk = nullptr;
    ReviewPage* m_review = nullptr;
    MessageBar* m_message = nullptr;
};

} // namespace jl
