#pragma once
#include "app/review/bench/bench_panel.h"
#include "app/review/share/review_exporter.h"
#include <QTimer>

class QLabel;

namespace jl
{

class FirstLook;
class SlipView;
class WaitingView;
struct PairPassage;
struct PictureFiles;

/// The place where one clip of a student is reviewed: header, path, bench, ribbon, ladder and slip. It
/// arranges them, and what stands in their place while there is no review; what is reviewed is the model's.
class ReviewPage : public QWidget
{
    Q_OBJECT

public:
    explicit ReviewPage(const Context& context, QWidget* parent = nullptr);

    /// Opens the review of a clip whose body was extracted; the work goes on in the background.
    void open(qint64 clip) { m_review.open(clip); }
    /// The same, and shows what matters most as soon as it is known.
    void openToLook(qint64 clip);
    qint64 openClip() const { return m_review.isOpen() ? m_review.clip().id : 0; }
    const Playhead& playhead() const { return m_review.playhead(); }
    BenchPanel& bench() { return *m_bench; }
    const ExportJobs& exports() const { return m_exports; }
    /// Shows lengths again after another unit was chosen.
    void refreshLengths() { m_review.playhead().refresh(); }

signals:
    void message(const QString& text);
    void opened(qint64 clip);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* buildPath();
    QWidget* buildMiddle();
    QWidget* buildSide();
    void addShortcuts();
    void connectReview();
    void wait();
    void showWaiting();
    void showMessage(const QString& words);
    void showReview();
    void showSlipPage();
    void showMovingPicture();
    void showFirstLook();
    std::optional<PairPassage> firstPassage() const;
    PictureFiles pictureFiles() const;
    void connectExports();

    Context m_context;
    OpenReview m_review;
    ExportJobs m_exports;
    ReviewExporter m_exporter;
    BenchPanel* m_bench = nullptr;
    SlipView* m_slip = nullptr;
    QLabel* m_empty = nullptr;                    ///< words where there is no review
    QWidget* m_content = nullptr;                 ///< the review
    QWidget *m_path = nullptr, *m_side = nullptr; ///< the columns beside the bench
    WaitingView* m_waiting = nullptr;
    FirstLook* m_firstLook = nullptr;
    bool m_looksFirst = false; ///< at the review that is being opened
    QTimer m_patience;         ///< runs while a review is being made that nothing stands in for yet
};

} // namespace jl
