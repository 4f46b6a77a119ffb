#pragma once
#include "app/jobs/picture_cache.h"
#include "app/review/bench/bench_overlay.h"
#include "app/review/model/open_review.h"
#include <array>

class QBoxLayout;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace jl
{

class FigureView;
class MendPanel;
class MendingView;

/// The bench: the pictures of student and reference with what is drawn over them, or both as figures; the
/// buttons above, and what mends points and room beneath.
class BenchPanel : public QWidget
{
    Q_OBJECT

public:
    BenchPanel(OpenReview& review, const Context& context, QWidget* parent = nullptr);

    void setMode(BenchMode mode);
    BenchMode mode() const { return m_mode; }
    /// Points and room can be corrected beneath the student's picture.
    void setMending(bool mending);
    /// Turns the figures to the next of front, side and top.
    void lookNext();
    /// Whether previews or the performer's film are still being made.
    bool makesFilms() { return m_films.busy(); }

private:
    QLayout* buildHead();
    void addToggles(QBoxLayout& head);
    void addModes(QBoxLayout& head);
    QWidget* buildPictures();
    std::unique_ptr<FrameFeed> feedOf(const ClipRow& clip, const Track& track);
    void showReference(const MadeReview& made);
    void showStudent();
    bool showsSecond() const;
    void mend(bool mending);
    void askForPictures();
    void showMoment();
    void drawOver(BenchPicture picture, PictureView& view, const QString& name);

    OpenReview& m_review;
    Playhead& m_playhead;
    Context m_context;
    PictureCache m_films;
    PerformerFilm m_performer;                  ///< the built-in performer's film
    QString m_studentSource, m_referenceSource; ///< files whose pictures are shown
    BenchMode m_mode = BenchMode::Beside;

    QLabel* m_title = nullptr;
    QPushButton *m_figure = nullptr, *m_whole = nullptr, *m_otherView = nullptr, *m_mend = nullptr;
    std::array<QPushButton*, 3> m_modes{};
    QStackedWidget* m_stack = nullptr;
    MendingView* m_student = nullptr;
    PictureView* m_reference = nullptr;
    FigureView* m_figures = nullptr;
    MendPanel* m_mendPanel = nullptr;
};

} // namespace jl
