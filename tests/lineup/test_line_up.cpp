#include "lineup/dynamic_time_warping.h"
#include "lineup/line_up.h"
#include "standards/standards.h"
#include "support/clips.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QDirIterator>
#include <QTemporaryDir>
#include <random>

using namespace jl;

namespace
{

std::vector<ModelPerformance> bothSides()
{
    return *shipped().models("sparrow-tail", "upright-broad");
}

} // namespace

class TestLineUp : public QObject
{
    Q_OBJECT

private slots:
    void warpingFollowsAStretchedSeries()
    {
        std::vector<double> a, b;
        for (int i = 0; i < 100; ++i)
            a.push_back(std::sin(i * 0.1));
        for (int i = 0; i < 50; ++i)
            b.push_back(std::sin(i * 0.2));
        const auto path = warp(100, 50, [&](int i, int j) { return (a[i] - b[j]) * (a[i] - b[j]); });
        for (const auto& [i, j] : path.steps)
            QVERIFY(std::abs(i - 2 * j) <= 3);
        QCOMPARE(path.steps.back().second, 49);
    }

    void warpingLeavesOutWhatComesBefore()
    {
        const auto path = warp(30, 10, [](int i, int j) { return i - 12 == j ? 0.0 : 1.0; });
        QCOMPARE(path.steps.front(), std::pair(12, 0));
        QCOMPARE(path.steps.back(), std::pair(21, 9));
    }

    void keyMomentsAreFound_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("tempo");
        QTest::addColumn<bool>("left");
        QTest::newRow("side") << 90.0 << 1.0 << false;
        QTest::newRow("other side, slow") << -90.0 << 0.7 << false;
        QTest::newRow("front, fast") << 3.0 << 1.5 << false;
        QTest::newRow("left, side") << 86.0 << 1.2 << true;
        QTest::newRow("left, front") << -4.0 << 0.8 << true;
        QTest::newRow("behind") << 180.0 << 1.0 << false;
    }

    void keyMomentsAreFound()
    {
        QFETCH(double, azimuth);
        QFETCH(double, tempo);
        QFETCH(bool, left);
        const auto models = bothSides();
        const auto p = perform("small", 31, left ? Side::Left : Side::Right, {}, tempo);
        const auto found = lineUp(smoothed(exactFrom(p, azimuth)), models, {});
        QVERIFY(found);
        QCOMPARE(models[found->model].lead, p.lead());
        VERIFY_NEAR(std::remainder(found->azimuth - azimuth, 360.0), 0, 10);
        QCOMPARE(found->phases.size(), p.phases().size());
        for (std::size_t i = 0; i < found->phases.size(); ++i) {
            QVERIFY2(
                found->phases[i].matched,
                qPrintable(
                    QString("%1 cost %2").arg(found->phases[i].phase.c_str()).arg(found->phases[i].cost)));
            // Standing at the beginning has no arrival: any moment of it is as good.
            VERIFY_NEAR(found->phases[i].time, p.phases()[i].time, i == 0 ? 1.2 : 0.3);
        }
    }

    void pausesAndEarlyStartsDoNotMatter()
    {
        // The performer waits four seconds before beginning and freezes for two in the middle.
        const auto p = perform("teacher", 32);
        const Track whole = exactFrom(p, 90);
        Track paused = whole;
        paused.frames.clear();
        double clock = 0;
        const auto add = [&](const BodyFrame& f) {
            paused.frames.push_back(f);
            paused.frames.back().time = clock;
            clock += 1 / 15.0;
        };
        for (int i = 0; i < 60; ++i)
            add(whole.frames.front());
        for (std::size_t i = 0; i < whole.frames.size(); ++i) {
            add(whole.frames[i]);
            if (i == whole.frames.size() / 2)
                for (int k = 0; k < 30; ++k)
                    add(whole.frames[i]);
        }
        const auto models = bothSides();
        const auto found = lineUp(smoothed(paused), models, {});
        QVERIFY(found);
        VERIFY_NEAR(found->phases[3].time, p.phases()[3].time + 4, 0.35);
        VERIFY_NEAR(found->phases.back().time, p.phases().back().time + 6, 0.5);
    }

    void somethingElseIsNotThisForm()
    {
        // A body that jumps about: points scattered anew in every frame.
        Track odd = exactFrom(perform(), 0);
        std::mt19937 random(5);
        for (BodyFrame& f : odd.frames)
            for (auto& point : f.point)
                point = Eigen::Vector2d(random() % 1280, random() % 720);
        const auto models = bothSides();
        const auto found = lineUp(odd, models, {});
        QVERIFY(!found);
        QCOMPARE(found.error().exitCode(), 4);
    }

    void unseenBodiesAreSaidToBeUnseen()
    {
        Track empty = exactFrom(perform(), 0);
        for (BodyFrame& f : empty.frames)
            f.seen = false;
        const auto models = bothSides();
        QCOMPARE(lineUp(empty, models, {}).error().exitCode(), 4);
    }

    void schoolsExtendEachOther()
    {
        const Standards& s = shipped().standards;
        QCOMPARE(s.schools.size(), std::size_t(5));
        const PhaseStandard& push = s.posture("push")->phases.back();
        const Bands upright = s.bandsFor(push, *s.school("upright-broad"), 0.26),
                    inclined = s.bandsFor(push, *s.school("inclined-straight"), 0.26);
        VERIFY_NEAR(upright.at(Measure::StanceLength).low, 1.8 * 0.26,
                    1e-9); // in the student's own foot lengths
        QCOMPARE(inclined.at(Measure::WeightLead).low, 82.0);
        QCOMPARE(inclined.at(Measure::KneeLeadPastToe).high, upright.at(Measure::KneeLeadPastToe).high);
        QCOMPARE(upright.at(Measure::ElbowLeadFlexion).low, 25.0); // the phase's own band
    }

    void damagedStandardsNameTheirFile()
    {
        const QTemporaryDir dir;
        const QString from = QString::fromStdString(dataFolder().string());
        for (const char* folder : {"schools", "postures"})
            QVERIFY(QDir().mkpath(dir.filePath(folder)));
        QDirIterator files(from, {"*.json"}, QDir::Files, QDirIterator::Subdirectories);
        while (files.hasNext()) {
            const QString file = files.next(), relative = QDir(from).relativeFilePath(file);
            if (relative.count('/') < 2) QFile::copy(file, dir.filePath(relative));
        }
        const std::filesystem::path copy(dir.path().toStdString());
        QVERIFY(Standards::load(copy));
        const auto spoil = [&](const char* name, const QByteArray& from_, const QByteArray& to) {
            QFile f(dir.filePath(name));
            f.setPermissions(QFile::ReadOwner | QFile::WriteOwner);
            f.open(QIODevice::ReadOnly);
            QByteArray text = f.readAll();
            f.close();
            text.replace(from_, to);
            f.open(QIODevice::WriteOnly);
            f.write(text);
        };
        spoil("schools/upright-broad.json", "\"weight.lead\"", "\"weight.laed\"");
        const auto wrong = Standards::load(copy);
        QVERIFY(!wrong);
        QVERIFY(wrong.error().message().find("upright-broad.json") != std::string::npos);
        QVERIFY(wrong.error().message().find("weight.laed") != std::string::npos);
    }
};

QTEST_APPLESS_MAIN(TestLineUp)
#include "test_line_up.moc"
