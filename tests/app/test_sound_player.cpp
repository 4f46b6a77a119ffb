#include "app/jobs/sound_player.h"
#include "media/encoder.h"
#include "media/sound_stream.h"
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <mutex>
#include <numbers>

using namespace jl;

namespace
{

/// What a loudspeaker would have been given; it is always half full.
struct Heard {
    std::mutex mutex;
    std::vector<std::vector<float>> pieces;
    int begun = 0;
    bool open = true; ///< takes more

    std::vector<float> all()
    {
        const std::lock_guard lock(mutex);
        std::vector<float> joined;
        for (const auto& p : pieces)
            joined.insert(joined.end(), p.begin(), p.end());
        return joined;
    }
    int times()
    {
        const std::lock_guard lock(mutex);
        return begun;
    }
};

class Recorder : public SoundOutput
{
public:
    explicit Recorder(Heard& heard) : m_heard(heard)
    {
        const std::lock_guard lock(m_heard.mutex);
        m_heard.pieces.clear();
        ++m_heard.begun;
    }
    std::size_t room() const override
    {
        const std::lock_guard lock(m_heard.mutex);
        return m_heard.pieces.size() < 4 ? 8192 : 0;
    }
    std::size_t waiting() const override { return 0; }
    void write(const std::vector<float>& samples) override
    {
        const std::lock_guard lock(m_heard.mutex);
        m_heard.pieces.push_back(samples);
    }

private:
    Heard& m_heard;
};

/// Five seconds: low in the first half, high in the second.
QString film(const QTemporaryDir& dir)
{
    EncoderOptions options;
    options.width = 96;
    options.height = 64;
    options.soundRate = SoundStream::kRate;
    std::vector<float> sound(5 * SoundStream::kRate);
    for (std::size_t i = 0; i < sound.size(); ++i) {
        const double hertz = i < sound.size() / 2 ? 300 : 1200;
        sound[i] = static_cast<float>(
            0.5 * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / SoundStream::kRate));
    }
    const QString file = dir.filePath("tones.mp4");
    auto encoder = Encoder::create(file.toStdString(), options);
    if (!encoder || !encoder->addSound(sound)) qFatal("cannot write");
    for (int i = 0; i < 50; ++i)
        if (!encoder->add(RgbImage(96, 64), i / 10.0)) qFatal("cannot write");
    if (!encoder->finish()) qFatal("cannot write");
    return file;
}

/// How high the sound is, Hz.
double pitch(const std::vector<float>& sound)
{
    int crossings = 0;
    for (std::size_t i = 2048; i + 1 < sound.size(); ++i)
        crossings += sound[i] < 0 && sound[i + 1] >= 0;
    return crossings * double(SoundStream::kRate) / (static_cast<double>(sound.size()) - 2048);
}

} // namespace

class TestSoundPlayer : public QObject
{
    Q_OBJECT

private slots:
    void itFollowsThePictures()
    {
        const QTemporaryDir dir;
        Heard heard;
        SoundPlayer player([&] { return std::make_unique<Recorder>(heard); });
        player.setClip(film(dir));
        player.follow(1.0, 1.0);
        QTest::qWait(50);
        QCOMPARE(heard.times(), 0); // it was not turned on
        player.setOn(true);
        player.follow(1.0, 0.5);
        QTRY_COMPARE(heard.all().size(), std::size_t(4 * 2048));
        QVERIFY(std::abs(pitch(heard.all()) - 300) < 40); // half as fast, not an octave lower
        const double after = 1.0 + 4 * 2048.0 / SoundStream::kRate * 0.5;
        player.follow(after, 0.5); // where it is: nothing begins anew
        QTest::qWait(50);
        QCOMPARE(heard.times(), 1);
        player.follow(4.0, 0.5); // a jump
        QTRY_COMPARE(heard.times(), 2);
        QTRY_COMPARE(heard.all().size(), std::size_t(4 * 2048));
        QVERIFY(std::abs(pitch(heard.all()) - 1200) < 60);
        player.follow(3.9, 0.5); // back, as a loop does
        QTRY_COMPARE(heard.times(), 3);
        player.follow(3.95, 2.0); // another speed
        QTRY_COMPARE(heard.times(), 4);
        player.stop();
        player.setOn(false);
        player.follow(1.0, 1.0);
        QTest::qWait(50);
        QCOMPARE(heard.times(), 4);
    }

    void clipsThatCannotBeHeardPlayInSilence()
    {
        const QTemporaryDir dir;
        Heard heard;
        SoundPlayer player([&] { return std::make_unique<Recorder>(heard); });
        player.setOn(true);
        player.follow(0, 1); // no clip
        player.setClip(dir.filePath("gone.mp4"));
        player.follow(0, 1);
        QTest::qWait(80);
        QCOMPARE(heard.times(), 0);
        SoundPlayer mute([] { return std::unique_ptr<SoundOutput>(); }); // no loudspeaker
        mute.setOn(true);
        mute.setClip(film(dir));
        mute.follow(1, 1);
        mute.stop();
    }
};

QTEST_GUILESS_MAIN(TestSoundPlayer)
#include "test_sound_player.moc"
