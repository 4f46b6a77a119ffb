#include "media/decoder.h"
#include "media/encoder.h"
#include "media/preview.h"
#include "support/near.h"
#include <QTemporaryDir>
#include <algorithm>
#include <random>

using namespace jl;

namespace
{

/// A picture whose grey level tells its number; a bright corner tells which way is up.
RgbImage numbered(int width, int height, int number)
{
    RgbImage image(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < 3; ++c)
                image.row(y)[3 * x + c] =
                    static_cast<std::uint8_t>(x < width / 4 && y < height / 4 ? 250 : 20 + 5 * number);
    return image;
}

int numberIn(const RgbImage& image)
{
    const int x = image.width / 2, y = image.height / 2;
    return static_cast<int>(std::lround((image.row(y)[3 * x] - 20) / 5.0));
}

std::string film(const QTemporaryDir& dir, const std::vector<double>& times, int turns = 0, double focal = 0)
{
    EncoderOptions options;
    options.width = 96;
    options.height = 64;
    options.quality = 12;
    options.quarterTurns = turns;
    options.keyFrameEvery = 7;
    options.focalLength = focal;
    const std::string file = dir.filePath("made.mp4").toStdString();
    auto encoder = Encoder::create(file, options);
    if (!encoder) qFatal("%s", encoder.error().message().c_str());
    for (std::size_t i = 0; i < times.size(); ++i)
        if (!encoder->add(numbered(96, 64, static_cast<int>(i)), times[i])) qFatal("cannot add");
    if (!encoder->finish()) qFatal("cannot finish");
    return file;
}

std::vector<double> even(int n)
{
    std::vector<double> times;
    for (int i = 0; i < n; ++i)
        times.push_back(i / 30.0);
    return times;
}

QString messageOf(const std::string& file)
{
    const auto info = probe(file);
    return info ? QString() : QString::fromStdString(info.error().message());
}

} // namespace

class TestMedia : public QObject
{
    Q_OBJECT

private slots:
    void timesAreExact()
    {
        const QTemporaryDir dir;
        auto decoder = Decoder::open(film(dir, even(40)));
        QVERIFY(decoder);
        QCOMPARE(decoder->info().width, 96);
        VERIFY_NEAR(decoder->info().framesPerSecond, 30, 0.01);
        for (int i = 0; i < 40; ++i) {
            const auto frame = decoder->next();
            QVERIFY(frame && *frame);
            VERIFY_NEAR((*frame)->time, i / 30.0, 1e-4);
            QCOMPARE(numberIn(toRgb(**frame)), i);
        }
        QVERIFY(!*decoder->next());
    }

    void variableRateKeepsItsTimes()
    {
        const QTemporaryDir dir;
        std::vector<double> times;
        for (int i = 0; i < 30; ++i)
            times.push_back(i < 15 ? i / 30.0 : 0.5 + (i - 15) / 12.0);
        auto decoder = Decoder::open(film(dir, times));
        QVERIFY(decoder);
        for (double t : times) {
            const auto frame = decoder->next();
            QVERIFY(frame && *frame);
            VERIFY_NEAR((*frame)->time, t, 1e-3);
        }
    }

    void seekingFindsTheFrameShownThen()
    {
        const QTemporaryDir dir;
        auto decoder = Decoder::open(film(dir, even(40)));
        QVERIFY(decoder);
        for (int wanted : {33, 2, 20, 21, 0, 39, 7}) {
            QVERIFY(decoder->seek(wanted / 30.0 + 0.01));
            const auto frame = decoder->next();
            QVERIFY(frame && *frame);
            QCOMPARE(numberIn(toRgb(**frame)), wanted);
            const auto after = decoder->next();
            QCOMPARE(after && *after, wanted < 39);
            if (wanted < 39) QCOMPARE(numberIn(toRgb(**after)), wanted + 1);
        }
    }

    /// However one came there: read on to, sought anew, asked for twice, with pictures in between not taken.
    void everyWayThereFindsTheSameFrame()
    {
        std::vector<double> times;
        for (int i = 0; i < 45; ++i)
            times.push_back(i / 30.0 + (i >= 25 ? 0.3 : 0.0)); // one picture stands for longer
        const QTemporaryDir dir;
        auto decoder = Decoder::open(film(dir, times));
        QVERIFY(decoder);
        std::mt19937 random(5);
        double moment = 0;
        for (int i = 0; i < 300; ++i) {
            const bool near = random() % 4 != 0;
            const double move = static_cast<double>(random() % 1000) / 1000;
            moment = std::clamp(near ? moment + 0.3 * (move - 0.35) : 1.7 * move, 0.0, 1.75);
            QVERIFY(decoder->seek(moment));
            if (random() % 3 == 0) continue;
            const auto frame = decoder->next();
            QVERIFY(frame && *frame);
            const auto after = std::upper_bound(times.begin(), times.end(), moment + 1e-3);
            if (after > times.begin() && moment - *std::prev(after) < 1e-3) continue; // on the very edge
            QCOMPARE(numberIn(toRgb(**frame)), static_cast<int>(after - times.begin()) - 1);
        }
        QVERIFY(decoder->seek(1e6)); // beyond the end: the last picture
        const auto last = decoder->next();
        QVERIFY(last && *last);
        QCOMPARE(numberIn(toRgb(**last)), 44);
    }

    void phoneRotationIsUndone()
    {
        const QTemporaryDir dir;
        auto decoder = Decoder::open(film(dir, even(5), 1));
        QVERIFY(decoder);
        QCOMPARE(decoder->info().width, 64);
        QCOMPARE(decoder->info().height, 96);
        QCOMPARE(decoder->info().quarterTurns, 1);
        const auto frame = decoder->next();
        const RgbImage upright = toRgb(**frame);
        QCOMPARE(upright.width, 64);
        // The bright corner of the stored picture, top left, has come to the top right.
        QVERIFY(upright.row(4)[3 * 60] > 200);
        QVERIFY(upright.row(4)[3 * 4] < 100);
    }

    void theLensIsReadWhereTheFileTellsIt()
    {
        const QTemporaryDir dir;
        QVERIFY(!probe(film(dir, even(5)))->fieldOfView);
        const auto told = probe(film(dir, even(5), 0, 26));
        QVERIFY(told && told->fieldOfView);
        VERIFY_NEAR(*told->fieldOfView, 69.4, 0.1);                // 2 atan(18 / 26)
        QVERIFY(!probe(film(dir, even(5), 0, 4000))->fieldOfView); // no lens
    }

    void stillsAreScaled()
    {
        const QTemporaryDir dir;
        const auto still = stillAt(film(dir, even(20)), 0.5, 48);
        QVERIFY(still);
        QCOMPARE(still->width, 48);
        QCOMPARE(numberIn(*still), 15);
    }

    void badFilesAreRefusedWithReason()
    {
        const QTemporaryDir dir;
        const auto make = [&](const char* name, const QByteArray& content) {
            QFile f(dir.filePath(name));
            f.open(QIODevice::WriteOnly);
            f.write(content);
            return f.fileName().toStdString();
        };
        QVERIFY(messageOf(make("letter.mp4", "Dear friend,\nthis is a letter.\n")).contains("letter.mp4"));
        QVERIFY(messageOf(make("empty.mp4", "")).contains("empty"));
        QVERIFY(messageOf(dir.path().toStdString()).contains("folder"));
        QVERIFY(messageOf("/nowhere/at/all.mp4").contains("no such file"));
        QFile whole(QString::fromStdString(film(dir, even(60))));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        QVERIFY(!messageOf(make("headless.mp4", bytes.left(40))).isEmpty());
    }

    void aClipThatBreaksOffSaysWhere()
    {
        const QTemporaryDir dir;
        QFile whole(QString::fromStdString(film(dir, even(240))));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        QFile cut(dir.filePath("cut.mp4"));
        QVERIFY(cut.open(QIODevice::WriteOnly));
        cut.write(whole.readAll().left(whole.size() * 6 / 10));
        cut.close();
        auto decoder = Decoder::open(cut.fileName().toStdString());
        QVERIFY(decoder); // the head is whole
        std::optional<Error> error;
        for (;;) {
            const auto frame = decoder->next();
            if (!frame) error = frame.error();
            if (!frame || !*frame) break;
        }
        QVERIFY(error);
        QCOMPARE(error->exitCode(), 3);
        QVERIFY(error->message().find("breaks off at") != std::string::npos);
    }

    void aFullOrForbiddenPlaceIsReported()
    {
        EncoderOptions options;
        const auto encoder = Encoder::create("/proc/forbidden.mp4", options);
        QVERIFY(!encoder);
        QVERIFY(encoder.error().message().find("/proc/forbidden.mp4") != std::string::npos);
    }

    void aPreviewShowsTheSameMoments()
    {
        QTemporaryDir dir;
        const std::vector<double> times{0, 0.03, 0.08, 0.1, 0.15, 0.2, 0.21, 0.3, 0.33, 0.4, 0.41, 0.5};
        const std::string clip = film(dir, times, 1), preview = dir.filePath("preview.mp4").toStdString();
        const auto written = writePreview(clip, preview, 48);
        QVERIFY2(written, written ? "" : written.error().message().c_str());
        auto decoder = Decoder::open(preview);
        QVERIFY(decoder);
        QCOMPARE(decoder->info().height, 48); // upright, and as high as was asked for
        QCOMPARE(decoder->info().width, 32);
        for (std::size_t i = 0; i < times.size(); ++i) {
            auto frame = decoder->next();
            QVERIFY(frame && *frame);
            VERIFY_NEAR((*frame)->time, times[i], 1e-3);
            VERIFY_NEAR(numberIn(toRgb(**frame)), static_cast<int>(i), 1);
        }
        QVERIFY(decoder->seek(0.35));
        auto sought = decoder->next();
        QVERIFY(sought && *sought);
        VERIFY_NEAR((*sought)->time, 0.33, 1e-3);
    }

    void aPreviewThatIsStoppedLeavesNothing()
    {
        QTemporaryDir dir;
        const std::string clip = film(dir, even(20)), preview = dir.filePath("preview.mp4").toStdString();
        const auto written = writePreview(clip, preview, 48, [](double share) { return share < 0.4; });
        QVERIFY(!written);
        QCOMPARE(written.error().kind, Error::Kind::Cancelled);
        QCOMPARE(QDir(dir.path()).entryList(QDir::Files), QStringList("made.mp4"));
        QVERIFY(!writePreview(dir.filePath("nothing.mp4").toStdString(), preview, 48));
    }
};

QTEST_APPLESS_MAIN(TestMedia)
#include "test_media.moc"
