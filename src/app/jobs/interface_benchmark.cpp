#include "app/jobs/interface_benchmark.h"
#include "app/review/bench/figure_view.h"
#include "app/review/bench/picture_view.h"
#include "app/review/page/review_page.h"
#include "app/review/ribbon/ribbon_view.h"
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <algorithm>
#include <cmath>
#include <functional>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/resource.h>

namespace jl
{
namespace
{

constexpr int kPatience = 60000; ///< ms after which something that never happens is given up

/// Lets the window live until something is so; false: it never was.
bool waitUntil(const std::function<bool()>& isSo, int patience = kPatience)
{
    QElapsedTimer clock;
    clock.start();
    while (!isSo()) {
        if (clock.elapsed() > patience) return false;
        QApplication::processEvents(QEventLoop::AllEvents, 2);
    }
    return true;
}

double milliseconds(const QElapsedTimer& clock)
{
    return static_cast<double>(clock.nsecsElapsed()) / 1e6;
}

/// Time of painting a widget once, ms.
double paintTime(QWidget& widget)
{
    QPixmap onto(widget.size());
    QElapsedTimer clock;
    clock.start();
    widget.render(&onto);
    return milliseconds(clock);
}

double quantile(std::vector<double> values, double share)
{
    std::sort(values.begin(), values.end());
    return values.empty() ? 0
                          : values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

Error stuck(const char* what)
{
    return {Error::Kind::NothingFound, std::string(what) + " never came", "bench",
            "Run it again with no other work."};
}

class Bench
{
public:
    Bench(MainWindow& window, qint64 clip, const BenchmarkEffort& effort)
        : m_effort(effort), m_window(window), m_review(window.review()),
          m_playhead(const_cast<Playhead&>(m_review.playhead())), m_clip(clip),
          m_picture(*window.findChild<PictureView*>("bench.student"))
    {
    }

    Result<InterfaceFigures> run()
    {
        for (auto part : {&Bench::open, &Bench::scrub, &Bench::play, &Bench::paint})
            if (const auto done = (this->*part)(); !done) return done.error();
        rusage usage{};
        getrusage(RUSAGE_SELF, &usage);
        m_figures.memoryMb = static_cast<double>(usage.ru_maxrss) / 1024;
        return m_figures;
    }

private:
    Result<double> openOnce()
    {
        bool done = false;
        const auto connection =
            QObject::connect(&m_review, &ReviewPage::opened, &m_review, [&done] { done = true; });
        QElapsedTimer clock;
        clock.start();
        m_window.openReview(m_clip);
        const bool came = waitUntil([&] { return done; });
        QObject::disconnect(connection);
        if (!came) return stuck("the review");
        return milliseconds(clock);
    }

    /// Previews are made once for every clip, beside other work. The time of opening is that of the next
    /// time: what somebody waits for who goes back to a clip.
    Result<Done> open()
    {
        const auto first = openOnce();
        if (!first) return first.error();
        constexpr int longest = 1800000; // ms
        QElapsedTimer clock;
        clock.start();
        if (m_effort.untilFilmsAreMade && !waitUntil([&] { return !m_review.bench().makesFilms(); }, longest))
            return stuck("the preview");
        m_figures.filmsMs = milliseconds(clock);
        const auto again = openOnce();
        if (!again) return again.error();
        m_figures.openMs = *again;
        if (!waitUntil([&] { return m_picture.hasPicture(); })) return stuck("the picture");
        const Track& track = m_playhead.scene()->student.track;
        m_figures.width = track.width;
        m_figures.height = track.height;
        m_figures.seconds = track.duration();
        m_review.bench().setMode(BenchMode::Beside);
        return Done{};
    }

    /// From a moved playhead to its picture on the screen, ms.
    Result<double> moved(double wished)
    {
        bool shown = false;
        const auto connection =
            QObject::connect(&m_picture, &PictureView::pictureShown, &m_picture,
                             [&](double time) { shown = shown || std::abs(time - wished) < 1e-6; });
        QElapsedTimer clock;
        clock.start();
        m_playhead.passTo(wished);
        const bool came = waitUntil([&] { return shown; });
        QObject::disconnect(connection);
        if (!came) return stuck("a picture");
        m_picture.repaint();
        return milliseconds(clock);
    }

    /// As a hand drags over the time line, to and fro by up to 20 frames at once; and jumps anywhere.
    Result<Done> scrub()
    {
        std::mt19937 random(11);
        const Track& track = m_playhead.scene()->student.track;
        const auto last = static_cast<long>(track.frames.size()) - 1;
        std::vector<double> dragged, jumped;
        long frame = last / 2;
        int way = 1;
        for (int i = 0; i < m_effort.drags; ++i) {
            if (random() % 12 == 0) way = -way;
            frame += way * static_cast<long>(1 + random() % 20);
            if (frame < 0 || frame > last) way = -way;
            frame = std::clamp(frame, 0L, last);
            const auto took = moved(track.frames[static_cast<std::size_t>(frame)].time);
            if (!took) return took.error();
            dragged.push_back(*took);
        }
        for (int i = 0; i < m_effort.jumps; ++i) {
            const auto took = moved(track.frames[random() % track.frames.size()].time);
            if (!took) return took.error();
            jumped.push_back(*took);
        }
        m_figures.scrubMedianMs = quantile(dragged, 0.5);
        m_figures.scrub95Ms = quantile(dragged, 0.95);
        m_figures.jumpMedianMs = quantile(jumped, 0.5);
        m_figures.jump95Ms = quantile(jumped, 0.95);
        return Done{};
    }

    /// A frame counts as dropped that was never on the screen while its time went by.
    Result<Done> play()
    {
        const Track& track = m_playhead.scene()->student.track;
        const double seconds = std::min(m_effort.playSeconds, track.duration() - 0.5);
        std::vector<bool> shown(track.frames.size() + 1, false);
        m_playhead.moveTo(0);
        m_playhead.setSpeed(1);
        const auto connection = QObject::connect(&m_picture, &PictureView::pictureShown, &m_picture,
                                                 [&](double time) { shown[track.nearest(time)] = true; });
        m_playhead.setPlaying(true);
        waitUntil([&] { return m_playhead.time() >= seconds || !m_playhead.playing(); });
        m_playhead.setPlaying(false);
        QObject::disconnect(connection);
        const std::size_t first = track.nearest(0.3), last = track.nearest(seconds - 0.1); // once it runs
        for (std::size_t i = first; i < last; ++i)
            (shown[i] ? m_figures.playedFrames : m_figures.droppedFrames) += 1;
        return Done{};
    }

    Result<Done> paint()
    {
        std::vector<double> times;
        const double duration = m_playhead.scene()->student.track.duration();
        for (int i = 0; i < m_effort.paints; ++i) {
            m_playhead.moveTo(duration * i / m_effort.paints);
            times.push_back(paintTime(m_picture));
        }
        m_figures.paintMedianMs = quantile(times, 0.5);
        m_figures.paint95Ms = quantile(times, 0.95);
        m_figures.ribbonMs = paintTime(*m_window.findChild<RibbonView*>("ribbon"));
        m_review.bench().setMode(BenchMode::Figure);
        auto* room = m_window.findChild<FigureView*>("bench.room");
        QApplication::processEvents();
        double whole = 0;
        for (int i = 0; i < m_effort.turns; ++i) {
            m_playhead.moveTo(duration * i / m_effort.turns);
            whole += paintTime(*room);
        }
        m_figures.figureFps = 1000 * m_effort.turns / whole;
        m_review.bench().setMode(BenchMode::Beside);
        return Done{};
    }

    const BenchmarkEffort m_effort;
    MainWindow& m_window;
    ReviewPage& m_review;
    Playhead& m_playhead;
    qint64 m_clip;
    PictureView& m_picture;
    InterfaceFigures m_figures;
};

} // namespace

Result<InterfaceFigures> benchmarkInterface(MainWindow& window, qint64 clip, const BenchmarkEffort& effort)
{
    return Bench(window, clip, effort).run();
}

Result<qint64> addBenchmarkClip(Library& library, const QString& clip, const Track& track, double height)
{
    ClipRow row;
    row.title = "Bench";
    const auto student = library.addStudent({0, "Bench", height, {}, "forming", ""});
    if (!student) return student.error();
    row.studentId = *student;
    const auto id = library.addClip(clip, row);
    if (!id) return id.error();
    const auto kept = library.saveTrack(*id, track);
    if (!kept) return kept.error();
    return *id;
}

std::string interfaceBenchmarkJson(const InterfaceFigures& f)
{
    const double all = f.playedFrames + f.droppedFrames;
    return nlohmann::ordered_json{
        {"clip", {{"width", f.width}, {"height", f.height}, {"seconds", f.seconds}}},
        {"open_ms", f.openMs},
        {"films_ms", f.filmsMs},
        {"scrub_ms", {{"median", f.scrubMedianMs}, {"p95", f.scrub95Ms}}},
        {"jump_ms", {{"median", f.jumpMedianMs}, {"p95", f.jump95Ms}}},
        {"play", {{"frames", all}, {"dropped_share", all > 0 ? f.droppedFrames / all : 0}}},
        {"paint_ms", {{"median", f.paintMedianMs}, {"p95", f.paint95Ms}}},
        {"figure_fps", f.figureFps},
        {"ribbon_ms", f.ribbonMs},
        {"memory_mb", f.memoryMb}}
        .dump(1);
}

} // namespace jl
