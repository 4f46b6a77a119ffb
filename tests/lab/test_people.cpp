#include "base/json_file.h"
#include "lab/people.h"
#include "support/near.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

/// Clips of figures with truth in two definitions of a joint.
class TestPeople : public QObject
{
    Q_OBJECT

private slots:
    void init()
    {
        m_dir = std::make_unique<QTemporaryDir>();
        m_folder = m_dir->path().toStdString();
        QVERIFY(writeText(m_folder / "a.mp4", "not a film"));
    }

    void truthIsAnInterval()
    {
        QVERIFY(writeText(m_folder / "a.json", kTruth));
        const auto clips = peopleClips(m_folder);
        QVERIFY(clips);
        QCOMPARE(clips->size(), std::size_t(1));
        const PeopleClip& clip = clips->front();
        QCOMPARE(clip.form, std::string("sparrow-tail"));
        QCOMPARE(clip.side, Side::Left);
        QCOMPARE(clip.profile.height, std::optional(1.7));
        QCOMPARE(clip.faults, (std::vector<std::string>{"knee-past-toe", "lean-forward"}));
        const PeopleMoment& m = clip.moments.at(0);
        QCOMPARE(m.error(Measure::KneeLeadFlexion, 50), std::optional(0.0)); // cannot be decided
        VERIFY_NEAR(*m.error(Measure::KneeLeadFlexion, 54), 2, 1e-12);
        VERIFY_NEAR(*m.error(Measure::KneeLeadFlexion, 45), -3, 1e-12);
        QVERIFY(!m.error(Measure::HeadTilt, 0)); // nobody measured it
    }

    void aClipWithoutTruthShowsNoForm()
    {
        const auto clips = peopleClips(m_folder);
        QVERIFY(clips && clips->front().form.empty());
    }

    void whatIsWrongIsNamed()
    {
        QVERIFY(writeText(m_folder / "a.json", R"({"form": "push"})"));
        const auto damaged = peopleClips(m_folder);
        QVERIFY(!damaged);
        QVERIFY(damaged.error().message().find("a.json") != std::string::npos);
        const QTemporaryDir empty;
        const auto none = peopleClips(empty.path().toStdString());
        QVERIFY(!none);
        QVERIFY(none.error().message().find(empty.path().toStdString()) != std::string::npos);
    }

private:
    static constexpr const char* kTruth = R"({"form": "sparrow-tail", "side": "L", "height": 1.7,
        "foot_length": 0.26, "faults": "knee-past-toe=0.08,lean-forward=10", "phases": [
        {"posture": "push", "phase": "arrive", "lead": "L", "time": 3.5,
         "rig": {"knee.lead.flexion": 52}, "skin": {"knee.lead.flexion": 48}}]})";

    std::unique_ptr<QTemporaryDir> m_dir;
    std::filesystem::path m_folder;
};

QTEST_APPLESS_MAIN(TestPeople)
#include "test_people.moc"
