#pragma once
#include "app/jobs/performer_feed.h"
#include "app/review/page/playhead.h"
#include "app/shell/context.h"
#include <QTimer>
#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QStackedWidget;
class QToolButton;
class QUndoStack;

namespace jl
{

class FigureView;
class FormDoubt;
class LadderView;
class MendPanel;
class MendingView;
class PathView;
class PictureView;
class RibbonView;
class SlipView;
class SoundButton;
class WaitingView;

/// The place where one clip of a student is reviewed: header, bench, ribbon, ladder and slip.
class ReviewPage : public QWidget
{
    Q_OBJECT

public:
    explicit ReviewPage(const Context& context, QWidget* parent = nullptr);

    /// Opens the review of a clip whose body was extracted; the work goes on in the background.
    void open(qint64 clip);
    qint64 openClip() const { return m_clip ? m_clip->id : 0; }
    const Playhead& playhead() const { return m_playhead; }
    void retellLengths() { m_playhead.retell(); }
    /// Whether previews or the performer's film are still being made.
    bool makesFilms() { return m_pictures.busy(); }

    /// How student and reference are shown: beside each other, the reference over the student, or both as
    /// figures in the room.
    enum class Bench { Beside, Over, Figure };
    void setBench(Bench bench);
    Bench bench() const { return m_bench; }
    /// Points and room can be put right beneath the student's picture.
    void setMending(bool mending);

signals:
    void message(const QString& text);
    void opened(qint64 clip);

private:
    QWidget* buildHeader();
    QWidget* buildPath();
    QWidget* buildBench();
    QLayout* buildBenchHead(QWidget* bench);
    QWidget* buildControls();
    QWidget* buildSide();
    void exportReview();
    void nameStudent();
    void fillChoices();
    void changeChoices();
    void reload();
    /// What a review is made from; tracks are unpacked where it is made.
    struct Wish {
        BundleRequest request;
        std::string student, second, reference; ///< packed tracks; empty where there is none
        std::string file;                       ///< the student's clip
    };
    Result<Wish> wish() const;
    std::optional<BodyFrame> laidOver() const;
    std::vector<QLineF> floorFan(bool reference, double time) const;
    void editLimits();
    /// A finished review with what stands beside the student.
    struct Opened {
        std::shared_ptr<const ReviewBundle> bundle;
        PerformerFilm performer; ///< empty where somebody else is the reference
        bool sound = false;      ///< the student's clip has one
    };
    static constexpr const char* kLastForm = "review.form"; ///< setting: the form chosen last
    static Result<Opened> make(const ShippedData& data, Wish wish);
    void show(const Opened& made);
    void showWaiting();
    void showMessage(const QString& words);
    std::unique_ptr<FrameFeed> feedOf(const ClipRow& clip, const Track& track);
    void askForPictures();
    void showMoment();
    void mend(bool mending);
    void measureAnew();
    void showStudent();
    bool showsSecond() const;
    void updateOverlay(bool reference);
    void addShortcuts();

    Context m_context;
    Playhead m_playhead;
    std::optional<ClipRow> m_clip;
    std::optional<StudentRow> m_student;
    ReviewRow m_row;
    PerformerFilm m_performer; ///< the built-in performer's film
    PictureCache m_pictures;
    QString m_studentSource, m_referenceSource; ///< files whose pictures are on the bench
    quint64 m_turn = 0; ///< counts openings, so that a late result of an earlier one is dropped

    QLabel *m_name = nullptr, *m_about = nullptr, *m_title = nullptr, *m_clock = nullptr, *m_empty = nullptr;
    QComboBox *m_clipChoice = nullptr, *m_secondChoice = nullptr, *m_referenceChoice = nullptr,
              *m_formChoice = nullptr, *m_schoolChoice = nullptr, *m_yardstick = nullptr, *m_speed = nullptr;
    QPushButton *m_figure = nullptr, *m_whole = nullptr, *m_otherView = nullptr, *m_loop = nullptr,
                *m_mend = nullptr;
    QToolButton* m_play = nullptr;
    QPushButton* m_limits = nullptr;
    SoundButton* m_sound = nullptr;
    std::array<QPushButton*, 3> m_benchButtons{};
    Bench m_bench = Bench::Beside;
    QStackedWidget* m_benchStack = nullptr;
    FigureView* m_figureView = nullptr;
    PathView* m_path = nullptr;
    QUndoStack* m_undo = nullptr;
    qint64 m_shownClip = 0; ///< the clip whose review is on the screen, and whose changes the stack holds
    MendingView* m_studentView = nullptr;
    PictureView* m_referenceView = nullptr;
    MendPanel* m_mendPanel = nullptr;
    RibbonView* m_ribbon = nullptr;
    LadderView* m_ladder = nullptr;
    SlipView* m_slip = nullptr;
    FormDoubt* m_formDoubt = nullptr;
    QWidget* m_content = nullptr;
    WaitingView* m_waiting = nullptr;
    QTimer m_patience; ///< runs while a review is being made that nothing stands in for yet
};

} // namespace jl
