#pragma once
#include "app/review/playhead.h"
#include "app/shell/context.h"
#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QToolButton;

namespace jl
{

class LadderView;
class PictureView;
class RibbonView;
class SlipView;

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

signals:
    void message(const QString& text);
    void opened(qint64 clip);

private:
    QWidget* buildHeader();
    QWidget* buildBench();
    QWidget* buildControls();
    QWidget* buildSide();
    void fillChoices();
    void reload();
    void show(std::shared_ptr<const ReviewBundle> bundle);
    void showMoment();
    void updateOverlay(bool reference);
    void addShortcuts();

    Context m_context;
    Playhead m_playhead;
    std::optional<ClipRow> m_clip;
    std::optional<StudentRow> m_student;
    ReviewRow m_row;
    Track m_referenceTrack; ///< of the built-in performer's film
    quint64 m_turn = 0;     ///< counts openings, so that a late result of an earlier one is dropped

    QLabel *m_name = nullptr, *m_about = nullptr, *m_title = nullptr, *m_breath = nullptr, *m_clock = nullptr,
           *m_empty = nullptr;
    QComboBox *m_clipChoice = nullptr, *m_referenceChoice = nullptr, *m_schoolChoice = nullptr,
              *m_speed = nullptr;
    QPushButton *m_figure = nullptr, *m_whole = nullptr, *m_loop = nullptr;
    QToolButton* m_play = nullptr;
    PictureView *m_studentView = nullptr, *m_referenceView = nullptr;
    RibbonView* m_ribbon = nullptr;
    LadderView* m_ladder = nullptr;
    SlipView* m_slip = nullptr;
    QWidget* m_content = nullptr;
};

} // namespace jl
