#include "draw/fault_strip.h"
#include "draw/fonts.h"
#include "draw/pair_clip.h"
#include "draw/track_film.h"
#include "media/encoder.h"
#include "media/sound_reader.h"
#include "support/clips.h"
#include "support/shipped.h"
#include <QGuiApplication>
#include <QTemporaryDir>
#include <QtTest>
#include <csignal>
#include <sys/resource.h>

using namespace jl;

namespace
{

constexpr int kShades = 24, kShadeStep = 9;

/// A clip with the times of a track, in which the shade of each picture says its number, and a sound that
/// rises.
void writeShades(const Track& track, const std::string& file, bool withSound)
{
    EncoderOptions options{
        .width = 320, .height = 180, .framesPerSecond = track.framesPerSecond, .quality = 8};
    if (withSound) options.soundRate = 44100;
    auto encoder = Encoder::create(file, options);
    if (!encoder) qFatal("%s", encoder.error().message().c_str());
    for (std::size_t i = 0; i < track.frames.size(); ++i) {
        RgbImage picture(options.width, options.height);
        std::fill(picture.data.begin(), picture.data.end(),
                  static_cast<std::uint8_t>(20 + kShadeStep * (i % kShades)));
        if (!encoder->add(picture, track.frames[i].time)) qFatal("no picture");
    }
    if (withSound) {
        std::vector<float> sound(static_cast<std::size_t>(44100 * track.duration()));
        for (std::size_t i = 0; i < sound.size(); ++i)
            sound[i] = 0.5F * std::sin(0.06F * static_cast<float>(i));
        if (!encoder->addSound(sound)) qFatal("no sound");
    }
    if (!encoder->finish()) qFatal("%s cannot be written", file.c_str());
}

/// The number, up to whole rounds of shades, of the picture in a panel.
int numberIn(const RgbImage& picture, const QRect& panel)
{
    std::vector<int> shades;
    for (int y = panel.top(); y <= panel.bottom(); y += 4)
        for (int x = panel.left(); x <= panel.right(); x += 4)
            shades.push_back(picture.row(y)[3 * x]);
    std::nth_element(shades.begin(), shades.begin() + std::ssize(shades) / 2, shades.end());
    return static_cast<int>(std::lround((shades[shades.size() / 2] - 20) / double(kShadeStep)));
}

/// How many pictures two numbers lie apart, in whichever direction is nearer.
int apart(int a, std::size_t b)
{
    const int d = std::abs(a - static_cast<int>(b % kShades));
    return std::min(d, kShades - d);
}

std::vector<RgbImage> picturesOf(const std::string& file)
{
    auto decoder = Decoder::open(file);
    if (!decoder) qFatal("%s", decoder.error().message().c_str());
    std::vector<RgbImage> all;
    for (;;) {
        auto frame = decoder->next();
        if (!frame) qFatal("%s", frame.error().message().c_str());
        if (!*frame) return all;
        all.push_back(toRgb(**frame));
    }
}

} // namespace

class TestPairClip : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        QVERIFY(loadFonts());
        // Two people at their own tempo, the reference at another frame rate.
        const Performance student = perform("teacher", 41, Side::Right, {{"knee-past-toe", 0.08, ""}}),
                          teacher = perform("tall", 45, Side::Right, {});
        ReviewRequest request;
        request.student.track = exactTrack(student, from(90));
        request.student.profile.height = student.body().height;
        request.reference.emplace();
        request.reference->track = exactTrack(teacher, from(90, 20));
        request.reference->profile.height = teacher.body().height;
        m_files = {m_dir.filePath("student.mp4").toStdString(), m_dir.filePath("teacher.mp4").toStdString()};
        writeShades(request.student.track, m_files.student, true);
        writeShades(request.reference->track, m_files.reference, false);
        auto finished = makeReview(shipped(), request);
        QVERIFY2(finished, finished ? "" : finished.error().message().c_str());
        m_scene = sceneOf(std::move(*finished));
        m_slip = slipOf(m_scene->review, shipped().rules, nullptr,
                        {"Ana", "Form", {}, asProposed(m_scene->review), {}});
        QVERIFY(!m_slip.items.empty());
    }

    void aFrameWalkShowsWhatIsThere()
    {
        auto walk = FrameWalk::open(m_files.student);
        QVERIFY(walk);
        const auto& frames = m_scene->student.track.frames;
        for (const double t : {0.0, 0.5, 0.51, 4.0, 4.0, 1.0, 1e3, -1.0, 2.0}) {
            const auto frame = walk->at(t);
            QVERIFY(frame);
            std::size_t expected = 0;
            while (expected + 1 < frames.size() && frames[expected + 1].time <= t + 1e-4)
                ++expected;
            QVERIFY2(std::abs((*frame)->time - frames[expected].time) < 1e-3, qPrintable(QString::number(t)));
        }
        QVERIFY(!FrameWalk::open(m_dir.filePath("none.mp4").toStdString()));
    }

    void aPassageIsSlowedHeldAndRepeated()
    {
        const PairPassage passage{1, 4, 3, "", "", {}};
        const PairTiming timing{.tempo = 0.5, .times = 2, .hold = 1, .framesPerSecond = 20};
        const std::vector<Seconds> times = pictureTimes(passage, timing);
        QCOMPARE(times.size(), std::size_t(2 * (80 + 20 + 40)));
        QCOMPARE(times.front(), 1.0);
        QCOMPARE(std::count(times.begin(), times.end(), 3.0), std::ptrdiff_t(2 * 21));
        QVERIFY(std::is_sorted(times.begin(), times.begin() + 140));
        QCOMPARE(times[140], 1.0);
        QVERIFY(std::abs(times[1] - 1.025) < 1e-9);
    }

    /// At five key moments the pictures of both are those that belong together, within one picture.
    void bothAreInStep()
    {
        PairClipRequest request;
        const auto& keys = m_scene->keyTimes;
        QVERIFY(keys.size() > 6);
        for (std::size_t i = 1; i <= 5; ++i) {
            const double t = keys[i * (keys.size() - 1) / 6].first;
            request.passages.push_back({t - 0.4, t + 0.4, t, "", "", {}});
        }
        request.timing = {.tempo = 1, .times = 1, .hold = 0.4};
        const std::string file = m_dir.filePath("step.mp4").toStdString();
        const auto written = writePairClip(m_scene, m_files, request, Theme::paper(), file);
        QVERIFY2(written, written ? "" : written.error().message().c_str());
        const std::vector<RgbImage> pictures = picturesOf(file);
        QCOMPARE(pictures.size(), std::size_t(5 * (10 + 10 + 10)));
        for (std::size_t i = 0; i < 5; ++i) {
            const double t = *request.passages[i].moment;
            const RgbImage& held = pictures[30 * i + 15];
            QCOMPARE(held.width, 1280);
            const std::size_t student = m_scene->student.track.nearest(t),
                              teacher = m_scene->reference->track.nearest(m_scene->referenceTimeAt(t));
            QVERIFY2(apart(numberIn(held, {200, 100, 300, 400}), student) <= 1,
                     qPrintable(QString::number(t)));
            QVERIFY2(apart(numberIn(held, {850, 100, 300, 400}), teacher) <= 1,
                     qPrintable(QString::number(t)));
        }
    }

    void theClipIsAsAskedFor_data()
    {
        QTest::addColumn<bool>("over");
        QTest::addColumn<bool>("portrait");
        QTest::addColumn<bool>("sound");
        QTest::newRow("beside, landscape") << false << false << false;
        QTest::newRow("beside, portrait, sound") << false << true << true;
        QTest::newRow("over, landscape, sound") << true << false << true;
        QTest::newRow("over, portrait") << true << true << false;
    }

    void theClipIsAsAskedFor()
    {
        QFETCH(bool, over);
        QFETCH(bool, portrait);
        QFETCH(bool, sound);
        PairClipRequest request;
        request.passages = passagesOf(m_slip, m_scene->review);
        request.passages.resize(1);
        request.style = {over ? PairLayout::Over : PairLayout::Beside,
                         portrait ? PairShape::Portrait : PairShape::Landscape, true};
        request.timing.times = 1;
        request.timing.sound = sound;
        const std::string file = m_dir.filePath("asked.mp4").toStdString();
        double last = 0;
        const auto written =
            writePairClip(m_scene, m_files, request, Theme::paper(), file, [&](double share) {
                last = share;
                return true;
            });
        QVERIFY2(written, written ? "" : written.error().message().c_str());
        QCOMPARE(last, 1.0);
        const auto info = probe(file);
        QVERIFY(info);
        QCOMPARE(QSize(info->width, info->height), PairPicture::sizeOf(request.style.shape));
        const double lasts =
            static_cast<double>(pictureTimes(request.passages[0], request.timing).size()) / 25;
        QVERIFY(std::abs(info->duration - lasts) < 0.1);
        QCOMPARE(hasSound(file), sound);
    }

    void stillsAreOnePictureForEachMoment()
    {
        PairClipRequest request;
        request.passages = passagesOf(m_slip, m_scene->review);
        const auto names =
            writePairStills(m_scene, m_files, request, Theme::paper(), {m_dir.path().toStdString(), "Ana"});
        QVERIFY(names);
        QCOMPARE(names->size(), m_slip.items.size());
        for (const std::string& name : *names)
            QCOMPARE(QImage(QString::fromStdString(name)).size(), QSize(1280, 720));
        QVERIFY(!writePairStills(m_scene, m_files, request, Theme::paper(), {"/no such folder", "Ana"}));
    }

    void rightAndWrongAreFourPictures()
    {
        const SlipItem& item = m_slip.items.front();
        const auto strip = faultStrip(shipped(), *m_scene, item, Theme::paper());
        QVERIFY2(strip, strip ? "" : strip.error().message().c_str());
        QVERIFY(strip->width() > 2.5 * strip->height());
        const auto part = [&](int i) { return strip->copy(i * strip->width() / 4, 0, 290, 390); };
        QVERIFY(part(0) != part(1) && part(1) != part(3) && part(2) != part(3));
        SlipItem own = item;
        own.fault = "own-wait-for-the-breath";
        QCOMPARE(faultStrip(shipped(), *m_scene, own, Theme::paper()).error().kind,
                 Error::Kind::NothingFound);
    }

    void wholePosturesAreShownWhereTheyWereFound()
    {
        const Review& review = m_scene->review;
        const auto whole = passageOf(review, 0);
        QVERIFY(whole && whole->to > whole->from && !whole->moment);
        QCOMPARE(whole->title, review.postures[0].name);
        QCOMPARE(passageOf(review, review.postures.size()).error().kind, Error::Kind::WrongUse);
        Review none = review;
        for (ReviewedPhase& phase : none.postures[0].phases)
            phase.student.matched = false;
        QCOMPARE(passageOf(none, 0).error().kind, Error::Kind::NothingFound);
    }

    void nothingHalfStaysBehind()
    {
        const QTemporaryDir empty;
        PairClipRequest request;
        request.passages = passagesOf(m_slip, m_scene->review);
        const auto writeTo = [&](const QString& file, const PictureFiles& files) {
            return writePairClip(m_scene, files, request, Theme::paper(), file.toStdString(),
                                 [](double share) { return share < 0.1; });
        };
        const auto stopped = writeTo(empty.filePath("a.mp4"), m_files);
        QCOMPARE(stopped.error().kind, Error::Kind::Cancelled);
        QVERIFY(!writeTo(empty.filePath("none/a.mp4"), m_files));
        QVERIFY(
            !writeTo(empty.filePath("a.mp4"), {m_files.student, empty.filePath("gone.mp4").toStdString()}));
        QVERIFY(QDir(empty.path()).isEmpty());
        request.timing.sound = true;
        const auto silent = writeTo(empty.filePath("a.mp4"), {m_files.reference, m_files.reference});
        QVERIFY(silent.error().message().find("has no sound") != std::string::npos);
        request.passages.clear();
        QCOMPARE(writeTo(empty.filePath("a.mp4"), m_files).error().kind, Error::Kind::NothingFound);
    }

    /// A limit on the size of a file stands for a full disk.
    void aFullDiskIsSaidAndLeavesNothing()
    {
        const QTemporaryDir empty;
        PairClipRequest request;
        request.passages = passagesOf(m_slip, m_scene->review);
        rlimit before{};
        getrlimit(RLIMIT_FSIZE, &before);
        const auto handler = std::signal(SIGXFSZ, SIG_IGN);
        const rlimit little{60 * 1024, before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &little);
        const auto written =
            writePairClip(m_scene, m_files, request, Theme::paper(), empty.filePath("a.mp4").toStdString());
        setrlimit(RLIMIT_FSIZE, &before);
        std::signal(SIGXFSZ, handler);
        QVERIFY(!written && written.error().message().find("the disk has room") != std::string::npos);
        QVERIFY(QDir(empty.path()).isEmpty());
    }

    void aTrackBecomesAFilm()
    {
        const Track& track = m_scene->student.track;
        const std::string file = m_dir.filePath("drawn.mp4").toStdString();
        QVERIFY(writeTrackFilm(track, Theme::paper(), file));
        const auto info = probe(file);
        QVERIFY(info && info->height == 540);
        const auto pictures = picturesOf(file);
        QCOMPARE(pictures.size(), track.frames.size());
        const auto dark = std::count_if(pictures[5].data.begin(), pictures[5].data.end(),
                                        [](std::uint8_t v) { return v < 100; });
        QVERIFY(dark > 1000); // a body is drawn
        QVERIFY(!writeTrackFilm({}, Theme::paper(), file));
    }

private:
    QTemporaryDir m_dir;
    PictureFiles m_files;
    std::shared_ptr<const ReviewScene> m_scene;
    Slip m_slip;
};

QTEST_MAIN(TestPairClip)
#include "test_pair_clip.moc"
