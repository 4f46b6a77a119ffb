#include "moment/view_support.h"
#include "support/forms.h"
#include "support/near.h"
#include <QDir>
#include <QTemporaryDir>
#include <set>

using namespace jl;

namespace
{

MomentPrior priorOf(const Performance& p, const PerformedPhase& phase)
{
    return {p.figureAt(phase.time).landmark, phase.lead, phase.heading, BodyLengths::usual(1.70)};
}

std::set<Measure> seenFrom(double azimuth, const MomentPrior& prior)
{
    std::set<Measure> seen;
    for (const MeasureInfo& m : allMeasures())
        if (supported(m.measure, azimuth, prior)) seen.insert(m.measure);
    return seen;
}

using enum Measure;
const std::set kHeights{HeelRearLift,   ToeLeadLift,    PelvisHeight,   ShoulderLeadRaise, ShoulderRearRaise,
                        ElbowLeadBelow, ElbowRearBelow, HandLeadHeight, HandRearHeight};
const std::set kHeadings{FootLeadAngle,  FootRearAngle,  BalanceMargin, PelvisSquare, WaistTwist,
                         ElbowLeadFlare, ElbowRearFlare, ArmsParallel,  ArmOverLeg,   GazeHeading};

} // namespace

/// Which view gives what, for the bow stance at the end of a push: both arms ahead, rear foot turned out.
class TestViewSupport : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        const auto p = performForm("push");
        m_prior = priorOf(p, phaseOf(p, "push", "arrive"));
    }

    void heightsAreSeenFromEverywhereAndHeadingsFromNowhere()
    {
        for (double azimuth = 0; azimuth < 360; azimuth += 15) {
            const auto seen = seenFrom(azimuth, m_prior);
            for (Measure m : kHeights)
                QVERIFY(seen.contains(m));
            for (Measure m : kHeadings)
                QVERIFY(!seen.contains(m));
        }
    }

    void theSideShowsWhatGoesForward()
    {
        for (double azimuth : {90.0, 75.0, -90.0, -110.0}) {
            const auto seen = seenFrom(azimuth, m_prior);
            for (Measure m :
                 {KneeLeadFlexion, HipLeadFlexion, KneeLeadPastToe, StanceLength, TrunkLeanForward,
                  TrunkRearLegLine, ArmLeadReach, HandLeadFront, SpineRound, HeadForward})
                QVERIFY2(seen.contains(m), measureInfo(m).key.data());
            for (Measure m : {KneeLeadTrack, StanceWidth, TrunkLeanSide, KneeRearFlexion, PelvisLevel,
                              KneesOpen, HandLeadCentre, HandsApart})
                QVERIFY2(!seen.contains(m), measureInfo(m).key.data());
        }
    }

    void weightIsSeenSquareToTheFeet()
    {
        QVERIFY(supported(WeightLead, 90, m_prior));
        QVERIFY(supported(WeightLead, 105, m_prior));
        QVERIFY(!supported(WeightLead, 20, m_prior));
        QVERIFY(!supported(WeightLead, 0, m_prior));
    }

    void theFrontShowsWhatGoesAside()
    {
        for (double azimuth : {0.0, 9.0, -9.0}) {
            const auto seen = seenFrom(azimuth, m_prior);
            for (Measure m : {KneeLeadTrack, StanceWidth, TrunkLeanSide, PelvisLevel, ShouldersLevel,
                              HeadTilt, KneesOpen, HandLeadCentre, HandsApart, LegLeadSplay})
                QVERIFY2(seen.contains(m), measureInfo(m).key.data());
            for (Measure m : {KneeLeadFlexion, KneeLeadPastToe, StanceLength, TrunkLeanForward, WeightLead,
                              HandLeadFront, SpineRound, KneeRearTrack})
                QVERIFY2(!seen.contains(m), measureInfo(m).key.data());
        }
    }

    void trackingIsNeverSeenFromBehindOrAside()
    {
        for (double azimuth : {180.0, 170.0, 20.0, -25.0, 45.0, 90.0})
            QVERIFY(!supported(KneeLeadTrack, azimuth, m_prior));
        QVERIFY(supported(StanceWidth, 180, m_prior));
        QVERIFY(supported(TrunkLeanSide, 165, m_prior));
    }

    void limitsAreWhereTheyAreWritten()
    {
        QVERIFY(supported(TrunkLeanForward, 90 + 24, m_prior));
        QVERIFY(!supported(TrunkLeanForward, 90 + 26, m_prior));
        QVERIFY(supported(TrunkLeanSide, 19, m_prior));
        QVERIFY(!supported(TrunkLeanSide, 21, m_prior));
        QVERIFY(supported(StanceWidth, -11, m_prior));
        QVERIFY(!supported(StanceWidth, -13, m_prior));
    }

    void aTurnOfTheFormTurnsTheViews()
    {
        // The same camera in the room sees a posture that has turned by a right angle from another side.
        MomentPrior turned = m_prior;
        turned.heading += 90;
        for (auto& p : turned.points)
            p = p.x() * rightOf(90) + p.y() * forwardOf(90) + Eigen::Vector3d(0, 0, p.z());
        QCOMPARE(seenFrom(90, m_prior), seenFrom(180, turned));
        QCOMPARE(seenFrom(0, m_prior), seenFrom(90, turned));
    }

    void sidesOfTheViewAreNamedForTheFrontLeg()
    {
        QCOMPARE(viewOf(90, 0, Side::Right), View::SideNear);
        QCOMPARE(viewOf(90, 0, Side::Left), View::SideFar);
        QCOMPARE(viewOf(-90, 0, Side::Left), View::SideNear);
        QCOMPARE(viewOf(5, 0, Side::Left), View::Front);
        QCOMPARE(viewOf(175, 0, Side::Left), View::Behind);
        QCOMPARE(viewOf(35, 0, Side::Left), View::Corner);
        QCOMPARE(viewOf(-90, 180, Side::Right), View::SideNear);
        std::set<std::string_view> names;
        for (View v : {View::Front, View::Behind, View::SideNear, View::SideFar, View::Corner, View::Both})
            names.insert(viewName(v));
        QCOMPARE(names.size(), std::size_t(6));
    }

    void twoCamerasAreNamedForWhatJoinsTheSide()
    {
        for (View side : {View::SideNear, View::SideFar}) {
            QCOMPARE(pairName(side, View::Front), std::string_view("two-views-front"));
            QCOMPARE(pairName(View::Behind, side), std::string_view("two-views-behind"));
            QCOMPARE(pairName(View::Corner, side), std::string_view("two-views-corner"));
            QCOMPARE(pairName(View::SideFar, side), viewName(View::Both));
        }
        QCOMPARE(pairName(View::Front, View::Corner), viewName(View::Both));
    }

    void twoViewsOfNoRowOfTheirOwnHaveThatOfAny()
    {
        const QTemporaryDir folder;
        QVERIFY(QDir(folder.path()).mkdir("measure"));
        const auto write = [&](const char* name, const QByteArray& json) {
            QFile file(folder.filePath(QString("measure/") + name));
            return file.open(QIODevice::WriteOnly) && file.write(json) == json.size();
        };
        QVERIFY(write("accuracy.json", R"({"two-views": {"foot.rear.angle": {"bias": 1, "floor": 12},
                                                         "stance.width": {"bias": 0, "floor": 0.03}},
                                           "two-views-front": {"foot.rear.angle": {"bias": 2, "floor": 3}}})"));
        QVERIFY(write("promise.json", R"({"two-views": {"stance.width": 0.05, "foot.rear.angle": 20},
                                          "two-views-front": {"stance.width": 0.04}})"));
        QVERIFY(write("networks.json", "{}"));
        QVERIFY(write("bodies.json", R"({"source": "made up", "any": {"stance.width": 0.01},
                                         "front": {"stance.width": 0.02}, "between": {"stance.width": 0.03}})"));
        const auto table = AccuracyTable::load(folder.path().toStdString());
        QVERIFY(table);
        const auto foot = [&](std::string_view view) { return table->entry(view, Measure::FootRearAngle); };
        QCOMPARE(foot("two-views-front").floor, 3.0);
        QCOMPARE(foot("two-views-corner").floor, 12.0);
        QCOMPARE(foot("two-views-corner").promised, 20.0);
        QCOMPARE(foot("front").floor, 0.0); // one camera never has the row of two
        const auto width = [&](std::string_view view) { return table->entry(view, Measure::StanceWidth); };
        QCOMPARE(width("two-views-front").floor, 0.03);
        QCOMPARE(width("two-views-front").promised, 0.04);
        QCOMPARE(width("two-views-behind").promised, 0.05);
        QCOMPARE(table->entry("two-views-front", "stance.width")->promised, 0.04); // by its key likewise
        QCOMPARE(width("front").bias, 0.03); // what bodies share in any view and in this one
        QCOMPARE(width("two-views-front").bias, 0.01);
        QCOMPARE(width("front").between, 0.03);
        QCOMPARE(table->withoutBias().entry("front", Measure::StanceWidth).bias, 0.0);
        QCOMPARE(table->withoutBias().entry("front", Measure::StanceWidth).between, 0.03);
    }

    void everyMeasureSaysWhereItIsSeen()
    {
        for (const MeasureInfo& m : allMeasures()) {
            QVERIFY(!m.shownFrom.empty() && !m.definition.empty() && !m.name.empty() && !m.frame.empty());
            QCOMPARE(measureFromKey(m.key), std::optional(m.measure));
            QCOMPARE(&measureInfo(m.measure), &m);
        }
        QVERIFY(!measureFromKey("knee.of.nobody"));
    }

private:
    MomentPrior m_prior;
};

QTEST_APPLESS_MAIN(TestViewSupport)
#include "test_view_support.moc"
