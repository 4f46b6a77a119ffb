#include "body/loudness.h"
#include "media/encoder.h"
#include "media/sound_stream.h"
#include "support/near.h"
#include <QTemporaryDir>
#include <numbers>

using namespace jl;

namespace
{

constexpr int kRate = 44100;

std::vector<float> tone(double frequency, double seconds)
{
    std::vector<float> out(static_cast<std::size_t>(seconds * kRate));
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = static_cast<float>(
            0.5 * std::sin(2 * std::numbers::pi * frequency * static_cast<double>(i) / kRate));
    return out;
}

/// Silence with a short hiss that begins at a time.
std::vector<float> knock(double at, double seconds)
{
    std::vector<float> out(static_cast<std::size_t>(seconds * kRate), 0.0F);
    unsigned state = 1;
    for (std::size_t i = static_cast<std::size_t>(at * kRate);
         i < static_cast<std::size_t>((at + 0.05) * kRate); ++i)
        out[i] =
            static_cast<float>(static_cast<int>((state = state * 1664525U + 1013904223U) >> 16U) - 32768) /
            40000.0F;
    return out;
}

/// A small film with this sound, whose first picture is shown at a time.
std::string film(const QTemporaryDir& dir, const std::vector<float>& sound, double seconds,
                 double firstPicture = 0)
{
    EncoderOptions options;
    options.width = 96;
    options.height = 64;
    options.soundRate = sound.empty() ? 0 : kRate;
    const std::string file = dir.filePath("heard.mp4").toStdString();
    auto encoder = Encoder::create(file, options);
    if (!encoder) qFatal("%s", encoder.error().message().c_str());
    if (!sound.empty() && !encoder->addSound(sound)) qFatal("cannot add sound");
    for (double t = firstPicture; t < seconds; t += 1 / 30.0)
        if (!encoder->add(RgbImage(96, 64), t)) qFatal("cannot add");
    if (!encoder->finish()) qFatal("cannot finish");
    return file;
}

std::vector<float> everything(SoundReader& reader)
{
    std::vector<float> all;
    for (auto more = reader.next(); !more.empty(); more = reader.next())
        all.insert(all.end(), more.begin(), more.end());
    return all;
}

/// When the sound first gets loud, s after its beginning; -1 if never.
double onset(const std::vector<float>& sound, int rate)
{
    for (std::size_t i = 0; i < sound.size(); ++i)
        if (std::abs(sound[i]) > 0.1F) return static_cast<double>(i) / rate;
    return -1;
}

/// By how often the sound crosses zero upwards, in its middle half; Hz.
double pitch(const std::vector<float>& sound)
{
    int crossings = 0;
    for (std::size_t i = sound.size() / 4; i < 3 * sound.size() / 4; ++i)
        crossings += sound[i] < 0 && sound[i + 1] >= 0;
    return crossings / (0.5 * static_cast<double>(sound.size()) / kRate);
}

} // namespace

class TestSound : public QObject
{
    Q_OBJECT

private slots:
    void soundLiesAtItsTime_data()
    {
        QTest::addColumn<int>("rate");
        QTest::addColumn<double>("firstPicture");
        QTest::addColumn<double>("from");
        QTest::newRow("as recorded") << kRate << 0.0 << 0.0;
        QTest::newRow("resampled") << 8000 << 0.0 << 0.0;
        QTest::newRow("pictures begin later") << 8000 << 0.4 << 0.0;
        QTest::newRow("from the middle") << kRate << 0.0 << 1.234;
        QTest::newRow("from the middle, resampled") << 8000 << 0.2 << 1.1;
    }

    void soundLiesAtItsTime()
    {
        QFETCH(int, rate);
        QFETCH(double, firstPicture);
        QFETCH(double, from);
        const QTemporaryDir dir;
        const double at = 2.1;
        auto reader = SoundReader::open(film(dir, knock(at, 4), 4, firstPicture), rate);
        QVERIFY2(reader, reader ? "" : reader.error().message().c_str());
        QVERIFY(reader->seek(from));
        const auto all = everything(*reader);
        VERIFY_NEAR(onset(all, rate) + from, at - firstPicture, 0.002);
        VERIFY_NEAR(static_cast<double>(all.size()) / rate, 4 - firstPicture - from, 0.05);
        QVERIFY(reader->seek(0)); // and back again
        VERIFY_NEAR(onset(everything(*reader), rate), at - firstPicture, 0.002);
    }

    void clipsWithoutSoundSaySo()
    {
        const QTemporaryDir dir;
        const std::string silent = film(dir, {}, 0.5);
        QVERIFY(!hasSound(silent));
        const auto reader = SoundReader::open(silent, kRate);
        QVERIFY(!reader);
        QCOMPARE(reader.error().kind, Error::Kind::NothingFound);
        QVERIFY(hasSound(film(dir, tone(440, 0.5), 0.5)));
        const auto nothing = SoundReader::open(dir.filePath("none.mp4").toStdString(), kRate);
        QVERIFY(!nothing && nothing.error().what == "there is no such file");
        auto encoder = Encoder::create(dir.filePath("quiet.mp4").toStdString(), {});
        QVERIFY(encoder && !encoder->addSound(tone(440, 1)));
    }

    void pitchIsKeptAtAnyTempo_data()
    {
        QTest::addColumn<double>("tempo");
        for (const double tempo : {0.125, 0.25, 0.5, 1.0, 2.0})
            QTest::addRow("%g", tempo) << tempo;
    }

    void pitchIsKeptAtAnyTempo()
    {
        QFETCH(double, tempo);
        const QTemporaryDir dir;
        auto stream = SoundStream::open(film(dir, tone(440, 3), 3), 1.0, tempo);
        QVERIFY(stream);
        std::vector<float> all;
        for (auto more = stream->take(4096); !more.empty(); more = stream->take(4096))
            all.insert(all.end(), more.begin(), more.end());
        VERIFY_NEAR(static_cast<double>(all.size()) / kRate, 2 / tempo, 0.1 / tempo + 0.1);
        VERIFY_NEAR(pitch(all), 440, 9);
        VERIFY_NEAR(stream->time(), 3, 0.2);
    }

    void loudnessIsThatOfTheOctave()
    {
        std::vector<float> sound(LoudnessCourse::kSamplingRate, 0.0F);
        for (std::size_t i = 4000; i < sound.size(); ++i) // 700 Hz, amplitude 0.1, from half a second on
            sound[i] = static_cast<float>(
                0.1 * std::sin(2 * std::numbers::pi * 700 * static_cast<double>(i) / 8000));
        const LoudnessCourse course = loudnessOf(sound);
        QCOMPARE(course.moments.size(), std::size_t(100));
        const auto &before = course.moments[30], &after = course.moments[80];
        QCOMPARE(int(before[1]), 0);
        // A sine of amplitude a has the mean power a * a / 2; a Hann window spreads it by 3/2.
        VERIFY_NEAR(after[1] / 2.0 - 100, 10 * std::log10(0.1 * 0.1 / 4 * 1.5), 1.0);
        QVERIFY(after[1] > after[0] + 30 && after[1] > after[3] + 30);
    }
};

QTEST_APPLESS_MAIN(TestSound)
#include "test_sound.moc"
