#include "camera/synchrony.h"
#include "render/hall_sound.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

constexpr int kRate = LoudnessCourse::kSamplingRate;

/// The same sound from `later` seconds on: a camera that was started later.
LoudnessCourse from(const std::vector<float>& sound, double later)
{
    return loudnessOf(std::span(sound).subspan(static_cast<std::size_t>(later * kRate)));
}

Performance slowly()
{
    PerformanceRequest request = requestFor("sparrow-tail", "upright-broad", "tall");
    request.tempo = 0.8;
    return performAs(request);
}

} // namespace

class TestHallSound : public QObject
{
    Q_OBJECT

private slots:
    void twoMicrophonesAgreeOnTheTime_data()
    {
        QTest::addColumn<double>("later");
        QTest::addColumn<double>("hiss");
        QTest::newRow("at once") << 0.0 << 0.002;
        QTest::newRow("less than a step") << 0.0137 << 0.002;
        QTest::newRow("seconds later") << 5.271 << 0.002;
        QTest::newRow("a poor microphone") << 3.111 << 0.02;
    }

    void twoMicrophonesAgreeOnTheTime()
    {
        QFETCH(double, later);
        QFETCH(double, hiss);
        const Performance p = perform("teacher", 5);
        const auto side = hallSound(p, {{4, 0, 1.2}, 11, hiss}, kRate),
                   front = hallSound(p, {{0, 4.5, 1.4}, 12, hiss}, kRate);
        const auto found = matchSounds(from(side, 0), from(front, later));
        QVERIFY(found);
        VERIFY_NEAR(found->offset, -later, 0.012); // 3 m of way are 9 ms
        QVERIFY(found->clearness > 1.5);
        const auto back = matchSounds(from(front, later), from(side, 0));
        QVERIFY(back);
        VERIFY_NEAR(back->offset, later, 0.012);
    }

    void whatDoesNotAgreeIsNotMatched()
    {
        const Performance p = perform("teacher", 5), other = perform("tall", 8);
        const auto one = hallSound(p, {{4, 0, 1.2}, 11}, kRate, 1);
        QVERIFY(!matchSounds(loudnessOf(one), loudnessOf(hallSound(other, {{0, 4, 1.2}, 12}, kRate, 2))));
        const std::vector<float> silence(one.size(), 0.0F);
        QVERIFY(!matchSounds(loudnessOf(one), loudnessOf(silence)));
        QVERIFY(!matchSounds(loudnessOf(silence), loudnessOf(silence)));
        QVERIFY(!matchSounds(loudnessOf(one), loudnessOf(std::span(one).first(kRate))));
        std::vector<float> beat(one.size(), 0.0F); // an even beat agrees at every beat
        for (std::size_t i = 0; i < beat.size(); i += kRate / 2)
            for (std::size_t k = i; k < std::min(i + 80, beat.size()); ++k)
                beat[k] = (k % 3 == 0) ? 0.5F : -0.3F;
        QVERIFY(!matchSounds(loudnessOf(beat), loudnessOf(beat)));
    }

    void theSameMusicAtAnotherPracticeDeceivesNobody()
    {
        ClipRequest clip;
        clip.sound = true;
        clip.camera = *cameraPlace("side", 0);
        clip.framesPerSecond = 15;
        const Performance p = perform("teacher", 5), slower = slowly();
        const auto together = synchronise(smoothed(exactTrack(p, clip)), smoothed(exactTrack(p, clip)));
        QVERIFY(together && together->heard);
        VERIFY_NEAR(together->offset, 0, 0.003);
        const auto apart = synchronise(smoothed(exactTrack(p, clip)), smoothed(exactTrack(slower, clip)));
        QVERIFY(!apart || !apart->heard);
    }
};

QTEST_APPLESS_MAIN(TestHallSound)
#include "test_hall_sound.moc"
