#include "base/angles.h"
#include "measure/measure_value.h"
#include "moment/raised_leg.h"
#include "performer/truth.h"
#include "reading/clip_reading.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/stick_body.h"

using namespace jl;

namespace
{

/// The exact lengths of a figure's body.
BodyLengths lengthsOf(const Figure& f)
{
    return {f.armLength, f.standingHip, f.shoulderToEar, 0.030 * f.scale, 0.025 * f.scale, 0.084 * f.scale};
}

} // namespace

class TestOneView : public QObject
{
    Q_OBJECT

private slots:
    void camerasProjectAndMeetPlanes()
    {
        Camera c = Camera::looking({0.1, 0.2, 0.9}, 70, 6, 4, 1);
        const Eigen::Vector2d middle = c.project({0.1, 0.2, 0.9});
        VERIFY_NEAR(middle.x(), c.centre.x(), 1e-9);
        VERIFY_NEAR(middle.y(), c.centre.y(), 1e-9);
        const Eigen::Vector3d p(0.3, -0.1, 1.4), normal = rightOf(0);
        QVERIFY((c.onPlane(c.project(p), normal, normal.dot(p)) - p).norm() < 1e-9);
        // A camera on the performer's right sees their front on the right of the picture.
        c = Camera::looking({0, 0, 1}, 90, 0, 4);
        QVERIFY(c.project({0, 0.5, 1}).x() > c.centre.x());
        QVERIFY(c.project({0, 0, 1.5}).y() < c.centre.y());
    }

    void offsetsGoAlongWithTheLimbAndBack()
    {
        const auto& offsets = shipped().tables.offsets;
        const auto p = perform("tall", 4);
        double most = 0, largest = 0;
        for (double t = 0.5; t < p.duration(); t += 1.3) {
            const BodyPoints body = p.figureAt(t).landmark;
            const NetworkPoints seen = offsets.toNetwork(body, 1.86);
            const BodyPoints back = offsets.toAnatomy(seen, 1.86);
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                largest = std::max(largest, (seen[i] - body[i]).norm());
                most = std::max(most, (back[i] - body[i]).norm());
            }
        }
        QVERIFY(largest > 0.02 && largest < 0.12); // the toe, for one
        QVERIFY2(most < 0.2 * largest, qPrintable(QString::number(most)));
        // A raised arm takes the shoulder's point with it.
        using enum Landmark;
        BodyPoints hanging = p.figureAt(0).landmark, raised = hanging;
        const double upper = (hanging[index(LeftElbow)] - hanging[index(LeftShoulder)]).norm();
        hanging[index(LeftElbow)] = hanging[index(LeftShoulder)] - upper * Eigen::Vector3d::UnitZ();
        raised[index(LeftElbow)] = hanging[index(LeftShoulder)] + upper * forwardOf(0);
        const auto shoulder = [&](const BodyPoints& b) {
            return (offsets.toNetwork(b, 1.7)[index(LeftShoulder)] - b[index(LeftShoulder)]).eval();
        };
        QVERIFY((shoulder(raised) - shoulder(hanging)).norm() > 0.003);
    }

    void hipsDrawnApartInABowAreTurnedBack()
    {
        using enum Landmark;
        const HipLine line = shipped().tables.offsets.hipLine();
        const auto turn = [](const BodyPoints& p) {
            return measureValue(Measure::PelvisSquare, p, {}, Side::Right, 0);
        };
        BodyPoints bow = stickBody(); // the right leg ahead, hips as networks see square ones
        bow[index(RightKnee)] += Eigen::Vector3d(0, 0.28, 0.1);
        bow[index(LeftKnee)] += Eigen::Vector3d(0, -0.15, 0);
        bow[index(RightHip)] += Eigen::Vector3d(0, 0.022, 0);
        bow[index(LeftHip)] += Eigen::Vector3d(0, -0.022, 0);
        QVERIFY(turn(bow) < -10);              // as if the pelvis were turned left
        for (double azimuth : {90.0, -90.0}) { // either hip hidden
            const BodyPoints back = line.turnedBack(bow, 1.7, forwardOf(azimuth));
            VERIFY_NEAR(turn(back), 0, 3.5);
            const auto middle = [](const BodyPoints& p) {
                return (p[index(LeftHip)] + p[index(RightHip)]).eval();
            };
            VERIFY_NEAR((middle(back) - middle(bow)).norm(), 0, 1e-9);
        }
        const BodyPoints standing = stickBody();
        VERIFY_NEAR(turn(line.turnedBack(standing, 1.7, forwardOf(90))), 0, 1e-9);
        const BodyPoints drawn = line.turned(bow, 1.7, forwardOf(90));
        const double turned = std::abs(turn(drawn) - turn(bow));
        QVERIFY(turned > 10);
        // The thighs as they are drawn tell it, which are not quite those that they are.
        VERIFY_NEAR(turn(line.turnedBack(drawn, 1.7, forwardOf(90))), turn(bow), 0.15 * turned);
        QCOMPARE(HipLine{}.turnedBack(bow, 1.7, forwardOf(90)), bow);
    }

    void definitionsAgreeWithTheTruth()
    {
        const auto p = perform("sturdy", 3, Side::Left);
        for (double t = 0.5; t < p.duration(); t += 0.9) {
            const Figure f = p.figureAt(t);
            for (const MeasureInfo& m : allMeasures()) {
                if (m.measure == Measure::WeightLead || m.measure == Measure::BalanceMargin)
                    continue; // the pipeline does not know the sex, see below
                const double value = measureValue(m.measure, f.landmark, lengthsOf(f), p.lead(), 0),
                             truth = trueMeasure(m.measure, f, p.lead(), 0);
                QVERIFY2(std::abs(wrapDeg(value - truth)) < (m.measure == Measure::GazeDrop ? 0.1 : 1e-4),
                         qPrintable(QString("%1 is %2, %3").arg(m.key.data()).arg(value).arg(truth)));
            }
            const double margin = measureValue(Measure::BalanceMargin, f.landmark, lengthsOf(f), p.lead(), 0);
            if (std::isfinite(margin)) VERIFY_NEAR(margin, trueBalanceMargin(f), 0.025);
            if (p.poseAt(t).foot[p.lead()].offFloor() || p.poseAt(t).foot[other(p.lead())].offFloor())
                continue; // all or nothing then; the measurer does not know of lifted feet
            VERIFY_NEAR(measureValue(Measure::WeightLead, f.landmark, lengthsOf(f), p.lead(), 0),
                        trueMeasure(Measure::WeightLead, f, p.lead(), 0), 2.5);
        }
    }

    void identifiersNameSides()
    {
        QCOMPARE(measureId(Measure::ElbowLeadFlexion, Side::Right), std::string("elbow.R.flexion"));
        QCOMPARE(measureId(Measure::HipRearFlexion, Side::Right), std::string("hip.L.flexion"));
        QCOMPARE(measureId(Measure::KneeLeadFlexion, Side::Left), std::string("knee.lead.flexion"));
        for (const MeasureInfo& m : allMeasures())
            QCOMPARE(measureFromKey(m.key), std::optional(m.measure));
    }

    void calibrationFindsTheCamera_data()
    {
        QTest::addColumn<double>("azimuth");
        for (double a : {0.0, 12.0, 90.0, 82.0, -90.0, 180.0, 45.0})
            QTest::newRow(qPrintable(QString::number(a))) << a;
    }

    void calibrationFindsTheCamera()
    {
        QFETCH(double, azimuth);
        const auto p = perform("tall", 21);
        const ClipReading clip = readExact(exactTrack(p, from(azimuth)), p);
        const Camera truth = cameraFor(p, from(azimuth));
        // It looks at the middle of the way; the opening stands aside from that.
        VERIFY_NEAR(wrapDeg(clip.camera.azimuth - azimuthFrom(truth, p.figureAt(0).landmark)), 0, 3);
        VERIFY_NEAR(
            (clip.camera.camera.position - Eigen::Vector3d(0, 0, clip.camera.camera.position.z())).norm(),
            truth.position.head<2>().norm(), 0.25);
        VERIFY_NEAR(clip.camera.camera.position.z(), truth.position.z(), 0.35);
    }

    void sideViewGivesItsMeasures()
    {
        const auto p = perform("tall", 22);
        const ClipReading clip = readExact(exactTrack(p, from(90)), p);
        for (std::size_t i = 0; i < clip.phases.size(); ++i) {
            if (p.phases()[i].stance != StanceKind::Bow) continue;
            const Figure f = p.figureAt(p.phases()[i].time);
            const auto truth = [&](Measure m) { return trueMeasure(m, f, p.lead(), 0); };
            const auto value = [&](Measure m) { return clip.phases[i].values[static_cast<std::size_t>(m)]; };
            for (const auto& [m, tolerance] : {std::pair(Measure::KneeLeadFlexion, 4.0),
                                               {Measure::KneeLeadPastToe, 0.015},
                                               {Measure::StanceLength, 0.03},
                                               {Measure::TrunkLeanForward, 1.5},
                                               {Measure::WeightLead, 4.0}}) {
                QVERIFY(value(m).seen());
                VERIFY_NEAR(value(m).value, truth(m), tolerance);
                QVERIFY(std::abs(value(m).value - truth(m)) < 3 * value(m).u);
            }
            for (Measure m : {Measure::KneeLeadTrack, Measure::StanceWidth, Measure::TrunkLeanSide,
                              Measure::KneeRearFlexion})
                QVERIFY(!value(m).seen());
        }
    }

    void frontViewGivesItsMeasures()
    {
        const auto p = perform("small", 23, Side::Right, {{"knee-caves-lead", 0.06, ""}});
        const ClipReading clip = readExact(exactTrack(p, from(4)), p);
        for (std::size_t i = 0; i < clip.phases.size(); ++i) {
            if (p.phases()[i].stance != StanceKind::Bow) continue;
            const auto& values = clip.phases[i].values;
            VERIFY_NEAR(values[static_cast<std::size_t>(Measure::KneeLeadTrack)].value, -0.06, 0.025);
            VERIFY_NEAR(values[static_cast<std::size_t>(Measure::TrunkLeanSide)].value,
                        trueMeasure(Measure::TrunkLeanSide, p.figureAt(p.phases()[i].time), p.lead(), 0),
                        1.5);
            QVERIFY(!values[static_cast<std::size_t>(Measure::KneeLeadPastToe)].seen());
            QVERIFY(!values[static_cast<std::size_t>(Measure::WeightLead)].seen());
        }
    }

    void knownViewLimits()
    {
        QCOMPARE(viewOf(90, 0, Side::Right), View::SideNear);
        QCOMPARE(viewOf(-90, 0, Side::Right), View::SideFar);
        QCOMPARE(viewOf(178, 0, Side::Left), View::Behind);
        QCOMPARE(viewOf(45, 45, Side::Left), View::Front);
        const auto p = perform("teacher", 24);
        for (double azimuth : {180.0, 25.0}) { // from behind, and too far from the front
            const ClipReading clip = readExact(exactTrack(p, from(azimuth)), p);
            for (const MeasuredPhase& r : clip.phases)
                if (r.phase.matched)
                    QVERIFY(!r.values[static_cast<std::size_t>(Measure::KneeLeadTrack)].seen());
        }
    }

    void anUnknownHeightWidensLengths()
    {
        const auto p = perform("tall", 25);
        const ClipReading known = readExact(exactTrack(p, from(90)), p),
                          unknown = readTrack(exactTrack(p, from(90)), {.lead = p.lead()});
        const auto u = [](const ClipReading& c) {
            return c.phases[3].values[static_cast<std::size_t>(Measure::StanceLength)].u;
        };
        QVERIFY(u(unknown) > 1.2 * u(known));
        // The true length still lies within two standard uncertainties, although this person is unusually
        // tall.
        const double truth = trueMeasure(Measure::StanceLength, p.figureAt(p.phases()[3].time), p.lead(), 0);
        const auto value = unknown.phases[3].values[static_cast<std::size_t>(Measure::StanceLength)];
        QVERIFY(std::abs(value.value - truth) < 2.5 * value.u);
    }

    /// A thigh that is lifted level: its own hip and knee are less sure, the standing leg's are not.
    void aRaisedLegIsLessSure()
    {
        const Performance p = performForm("golden-rooster");
        const ClipReading clip = readExact(exactTrack(p, from(90)), p, "golden-rooster");
        int raised = 0;
        for (std::size_t i = 0; i < p.phases().size(); ++i) {
            const PerformedPhase& phase = p.phases()[i];
            const BodyPoints points = p.figureAt(phase.time).landmark;
            const auto u = [&](Measure m) { return clip.phases[i].values[static_cast<std::size_t>(m)].u; };
            const Landmark leadHip = sided(Landmark::LeftHip, phase.lead);
            if (!clip.phases[i].phase.matched || raisedLegFactor(points, leadHip) == 1) continue;
            ++raised;
            QCOMPARE(raisedLegFactor(points, mirrored(leadHip)), 1.0);
            QCOMPARE(raisedLegFactor(points, sided(Landmark::LeftWrist, phase.lead)), 1.0);
            QVERIFY(u(Measure::KneeLeadFlexion) > 1.5 * u(Measure::KneeRearFlexion));
        }
        QVERIFY(raised > 0);
    }

    void exchangedLegsArePutRight()
    {
        const auto p = perform("teacher", 26);
        const ClipReading clip = readExact(exactTrack(p, from(90)), p);
        const double time = p.phases()[3].time;
        BodyFrame frame = clip.track.frames[clip.track.nearest(time)];
        const auto right = clip.measurer->measure(frame, clip.priorAt(time));
        for (Landmark l : {Landmark::LeftKnee, Landmark::LeftAnkle, Landmark::LeftHeel, Landmark::LeftToe})
            std::swap(frame.point[index(l)], frame.point[index(sided(l, Side::Right))]);
        const auto mended = clip.measurer->measure(frame, clip.priorAt(time));
        const auto m = static_cast<std::size_t>(Measure::KneeLeadFlexion);
        QVERIFY(mended[m].seen());
        VERIFY_NEAR(mended[m].value, right[m].value, 1e-9);
        // Legs that lie nowhere near any sensible place are not believed at all.
        for (std::size_t i = index(Landmark::LeftKnee); i < kLandmarkCount; ++i)
            frame.point[i] += Eigen::Vector2d(180, -60);
        QVERIFY(!clip.measurer->measure(frame, clip.priorAt(time))[m].seen());
    }
};

QTEST_APPLESS_MAIN(TestOneView)
#include "test_one_view.moc"
