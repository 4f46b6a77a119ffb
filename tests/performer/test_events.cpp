#include "base/angles.h"
#include "performer/derived_truth.h"
#include "performer/events.h"
#include "performer/phase_truth.h"
#include "support/forms.h"
#include "support/near.h"
#include <map>

using namespace jl;

/// What the performer tells of its own steps and phases.
class TestEvents : public QObject
{
    Q_OBJECT

private slots:
    void everyLiftIsFollowedByAContact()
    {
        const auto p = performForm("brush-walk");
        for (Side side : {Side::Left, Side::Right}) {
            bool up = false;
            int steps = 0;
            for (const FloorEvent& e : floorEvents(p)) {
                if (e.side != side) continue;
                const bool lift = e.kind == FloorEvent::Kind::Lift;
                QVERIFY2(lift != up, qPrintable(QString("at %1 s").arg(e.time)));
                up = lift;
                steps += lift;
            }
            QVERIFY(!up); // both feet stand at the end
            QVERIFY(steps >= 3);
        }
    }

    void eventsAreInOrderAndAgreeWithThePose()
    {
        const auto p = performForm("first-eight");
        double last = 0;
        for (const FloorEvent& e : floorEvents(p)) {
            QVERIFY(e.time >= last);
            last = e.time;
            const double before = p.poseAt(e.time - 0.05).foot[e.side].lift,
                         after = p.poseAt(e.time + 0.05).foot[e.side].lift;
            if (e.kind == FloorEvent::Kind::Contact) {
                QVERIFY(before > after);
                QVERIFY(e.flatAt >= e.time);
                QVERIFY(e.weightAfter >= e.weight - 1e-9);
            } else {
                QVERIFY(after > before);
            }
        }
    }

    void aForwardStepLandsOnItsHeelAndThenFlat()
    {
        const auto p = performForm("ward-off");
        const PerformedPhase& step = phaseOf(p, "ward-off", "step");
        int found = 0;
        for (const FloorEvent& e : floorEvents(p)) {
            if (e.kind != FloorEvent::Kind::Contact || e.side != step.lead || e.time < step.begin ||
                e.time > step.time)
                continue;
            ++found;
            QCOMPARE(e.how, std::string_view("heel"));
            QVERIFY(e.flatAt > e.time + 0.2); // the sole comes down with the weight
            QVERIFY(e.weight < 20);
        }
        QCOMPARE(found, 1);
    }

    void phasesKnowTheirTurnAndTime()
    {
        const auto p = performForm("sparrow-tail");
        for (const PerformedPhase& phase : p.phases())
            VERIFY_NEAR(phaseTruth(p, phase).duration, phase.time - phase.begin, 1e-9);
        // The waist turns to the rear side when sitting back, by some 40 degrees.
        const PhaseTruth back = phaseTruth(p, phaseOf(p, "roll-back", "sit"));
        VERIFY_NEAR(back.pelvisTurn, -42, 8);
        const auto left = performForm("sparrow-tail", Side::Left);
        VERIFY_NEAR(phaseTruth(left, phaseOf(left, "roll-back", "sit")).pelvisTurn, -back.pelvisTurn, 1e-6);
    }

    void turnsOfTheFootArePivots()
    {
        const auto p = performForm("deflect-parry-punch");
        const PhaseTruth turn = phaseTruth(p, phaseOf(p, "deflect-parry-punch", "turn"));
        QVERIFY(std::max(std::abs(turn.pivot[Side::Left].amount), std::abs(turn.pivot[Side::Right].amount)) >
                60);
        const PhaseTruth punch = phaseTruth(p, phaseOf(p, "deflect-parry-punch", "punch"));
        for (Side s : {Side::Left, Side::Right})
            QVERIFY(std::abs(punch.pivot[s].amount) < 10);
    }

    void pivotsGoAboutTheHeelOrTheBall()
    {
        const auto punch = performForm("deflect-parry-punch");
        const PhaseTruth turn = phaseTruth(punch, phaseOf(punch, "deflect-parry-punch", "turn"));
        QVERIFY(turn.pivot[Side::Right].about.value() < 25);
        // A foot turned about its ball carries the heel round.
        const auto p = performForm("full-24");
        int heel = 0, ball = 0;
        for (const PerformedPhase& phase : p.phases()) {
            const PhaseTruth whole = phaseTruth(p, phase);
            for (Side s : {Side::Left, Side::Right}) {
                const auto about = whole.pivot[s].about;
                if (!about) continue;
                heel += *about < 25;
                ball += *about > 75;
                QVERIFY(std::abs(whole.pivot[s].amount) >= 3);
            }
        }
        QVERIFY(heel >= 5);
        QCOMPARE(ball, 1); // the rear foot in the turn before the punch
    }

    /// As a fault it moves the heel of the foot that should stay, in the same turn.
    void aHeelTurnCanBeDoneOnTheBall()
    {
        auto request = requestFor("turn-line");
        const auto right = performAs(request);
        request.faults = {{"turns-on-ball", 1, ""}};
        const auto wrong = performAs(request);
        QVERIFY(!wrong.faults().empty());
        int turns = 0;
        for (std::size_t i = 0; i < right.phases().size(); ++i) {
            const Pivot asked = phaseTruth(right, right.phases()[i]).pivot[Side::Left];
            const Pivot shown = phaseTruth(wrong, wrong.phases()[i]).pivot[Side::Left];
            VERIFY_NEAR(shown.amount, asked.amount, 1);
            if (std::abs(asked.amount) < 25 || !asked.about) continue;
            ++turns;
            QVERIFY(*asked.about < 25 && shown.about.value() > 75);
        }
        QVERIFY(turns >= 2);
    }

    void movesFollowEachOther()
    {
        const auto p = performForm("low-punch");
        // First the weight arrives, upright; then the body sinks.
        const PhaseTruth low = phaseTruth(p, phaseOf(p, "low-punch", "low"));
        QVERIFY(low.order.shiftSink && *low.order.shiftSink < 0.15);
        QVERIFY(!low.order.shiftStep && !low.order.turnStep);
        // The weight has gone over before the foot reaches out, and the pelvis turns along with it.
        const PhaseTruth step = phaseTruth(p, phaseOf(p, "low-punch", "step"));
        QVERIFY(step.order.shiftStep && *step.order.shiftStep < 0.05);
        QVERIFY(step.order.turnStep && *step.order.turnStep > 0.3);
        QVERIFY(!step.order.shiftSink); // stepping out sinks by itself
        // Here it has turned before.
        const auto hands = performForm("cross-hands");
        const PhaseTruth early = phaseTruth(hands, phaseOf(hands, "cross-hands", "cross"));
        QVERIFY(early.order.turnStep && *early.order.turnStep < -0.3);
    }

    void touchDownsOnOneLegAreCounted()
    {
        const auto touches = [](const Performance& p) {
            int n = 0;
            for (const PerformedPhase& phase : p.phases())
                n += phaseTruth(p, phase).touches.value_or(0);
            return n;
        };
        QCOMPARE(touches(performForm("golden-rooster")), 0);
        auto request = requestFor("heel-kick");
        QCOMPARE(touches(performAs(request)), 0);
        request.faults = {{"wobble", 0.02, "heel-kick", "kick"}};
        QCOMPARE(touches(performAs(request)), 0); // caught in time
        request.faults.front().size = 0.06;
        QCOMPARE(touches(performAs(request)), 1);
    }

    void derivedTruthsAgreeWithTheMeasures()
    {
        const auto p = performForm("single-whip", Side::Left);
        const PerformedPhase& fill = p.phases().back();
        const Figure f = p.figureAt(fill.time);
        std::map<std::string_view, double> derived;
        for (const NamedTruth& t : derivedTruth(f, fill.lead, fill.heading))
            derived[t.id] = t.value;
        const auto measured = [&](Measure m) { return trueMeasure(m, f, fill.lead, fill.heading); };
        const bool left = fill.lead == Side::Left;
        VERIFY_NEAR(derived[left ? "weight.L" : "weight.R"], measured(Measure::WeightLead), 1e-9);
        VERIFY_NEAR(derived["weight.L"] + derived["weight.R"], 100, 1e-9);
        VERIFY_NEAR(derived[left ? "knee.L.flexion" : "knee.R.flexion"], measured(Measure::KneeLeadFlexion),
                    1e-9);
        // Turned out is positive on either side; a heading grows to the right.
        const double out = (left ? -1 : 1) * measured(Measure::FootLeadAngle);
        VERIFY_NEAR(
            std::remainder(derived[left ? "foot.L.heading" : "foot.R.heading"] - fill.heading - out, 360), 0,
            1e-6);
        QVERIFY(std::abs(derived["foot.L.heading.offset"]) <= 22.5);
        VERIFY_NEAR(std::remainder(derived["foot.L.heading"] - derived["foot.L.heading.offset"], 45), 0,
                    1e-6);
        // As an angle, tracking is about its offset over the length of the shank.
        VERIFY_NEAR(derived["knee.lead.track.angle"],
                    std::asin(measured(Measure::KneeLeadTrack) / p.body().shank()) * kDegPerRad, 1.5);
        VERIFY_NEAR(derived["hands.apart.shoulders"] * 2 * p.body().shoulderHalfWidth(),
                    measured(Measure::HandsApart), 1e-9);
    }

    void oneLegIsTimed()
    {
        const auto kick = performForm("heel-kick");
        const PhaseTruth held = phaseTruth(kick, phaseOf(kick, "heel-kick", "kick"));
        VERIFY_NEAR(held.oneLegTime, held.duration, 0.05);
        const auto push = performForm("push");
        QCOMPARE(phaseTruth(push, phaseOf(push, "push", "arrive")).oneLegTime, 0.0);
    }

    void aHeldPoseHardlySways()
    {
        const auto p = performForm("push");
        const PhaseTruth arrive = phaseTruth(p, phaseOf(p, "push", "arrive"));
        QVERIFY(arrive.sway < 1e-4); // a square centimetre
        QCOMPARE(arrive.pauses, 0);
        QVERIFY(arrive.smoothness < -1.2 && arrive.smoothness > -3);
    }

    void transfersGoOneWay()
    {
        const auto p = performForm("brush-knee");
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.stance != StanceKind::Bow || phase.posture != "brush-knee") continue;
            const PhaseTruth whole = phaseTruth(p, phase);
            QVERIFY2(whole.backwardShift < 6, qPrintable(QString::number(whole.backwardShift)));
            QVERIFY(whole.doubleTime < 0.6);
        }
    }

    void slowerIsOnlySlower()
    {
        auto request = requestFor("sparrow-tail");
        const auto usual = performAs(request);
        request.tempo = 0.5;
        const auto slow = performAs(request);
        VERIFY_NEAR(slow.duration(), 2 * usual.duration(), 1e-6);
        const PhaseTruth a = phaseTruth(usual, phaseOf(usual, "press", "arrive")),
                         b = phaseTruth(slow, phaseOf(slow, "press", "arrive"));
        VERIFY_NEAR(b.pelvisTurn, a.pelvisTurn, 1e-6);
        VERIFY_NEAR(b.bob, a.bob, 0.1);
        VERIFY_NEAR(b.duration, 2 * a.duration, 1e-6);
    }
};

QTEST_APPLESS_MAIN(TestEvents)
#include "test_events.moc"
