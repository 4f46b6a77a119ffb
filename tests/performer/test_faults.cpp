#include "performer/events.h"
#include "performer/fault_table.h"
#include "performer/phase_truth.h"
#include "support/forms.h"
#include "support/knee_causes.h"
#include "support/near.h"
#include <set>

using namespace jl;

namespace
{

Performance performWith(const std::string& form, std::vector<FaultRequest> faults)
{
    auto request = requestFor(form);
    request.faults = std::move(faults);
    return performAs(request);
}

/// A form in which the stance occurs.
std::string formWith(const PoseFault& fault)
{
    if (fault.stances == StanceSet{StanceKind::OneLeg})
        return fault.kind.id == "kick-too-high" || fault.kind.id == "arm-off-leg" ? "heel-kick"
                                                                                  : "golden-rooster";
    return "sparrow-tail";
}

} // namespace

class TestFaults : public QObject
{
    Q_OBJECT

private slots:
    void everyFaultHasAName()
    {
        std::set<std::string_view> ids;
        for (const FaultKind& k : faultKinds()) {
            QVERIFY(ids.insert(k.id).second);
            QVERIFY(k.usual > 0 && k.usual <= k.largest);
            QVERIFY(!k.meaning.empty());
            const auto request = parseFault(std::string(k.id));
            QVERIFY(request);
            QCOMPARE(request->size, k.usual);
        }
        QVERIFY(ids.size() >= 55);
    }

    void poseFaultsShowWithTheirSize_data()
    {
        QTest::addColumn<int>("fault");
        for (std::size_t i = 0; i < poseFaults().size(); ++i)
            QTest::newRow(std::string(poseFaults()[i].kind.id).c_str()) << static_cast<int>(i);
    }

    void poseFaultsShowWithTheirSize()
    {
        QFETCH(int, fault);
        const PoseFault& f = poseFaults()[static_cast<std::size_t>(fault)];
        const std::string form = formWith(f), id(f.kind.id);
        const auto clean = performWith(form, {}), spoilt = performWith(form, {{id, f.kind.usual}});
        QVERIFY(!spoilt.faults().empty());
        int shown = 0;
        for (std::size_t i = 0; i < spoilt.phases().size(); ++i) {
            const PerformedPhase& phase = spoilt.phases()[i];
            const bool listed =
                std::any_of(spoilt.faults().begin(), spoilt.faults().end(), [&](const PerformedFault& d) {
                    return d.posture == phase.posture && d.phase == phase.phase;
                });
            if (!listed) continue;
            ++shown;
            const double own = valueAt(clean, clean.phases()[i], *f.kind.measure),
                         now = valueAt(spoilt, phase, *f.kind.measure);
            const double change = std::abs(now - own);
            const double tolerance = f.kind.unit == "m" ? 0.008 : 1.0;
            if (!f.limit) // the size counts from the faultless value
                VERIFY_NEAR(change, f.kind.usual, tolerance);
            else
                QVERIFY2(f.above ? now > *f.limit - tolerance : now < *f.limit + f.kind.usual + tolerance,
                         qPrintable(QString("%1 in %2: %3, was %4")
                                        .arg(id.c_str(), phase.phase.c_str())
                                        .arg(now)
                                        .arg(own)));
        }
        QVERIFY(shown > 0);
    }

    void safetyMeasuresStayUnlessTheyAreMeant_data() { poseFaultsShowWithTheirSize_data(); }
    void safetyMeasuresStayUnlessTheyAreMeant()
    {
        QFETCH(int, fault);
        const PoseFault& f = poseFaults()[static_cast<std::size_t>(fault)];
        if (kKneeCauses.contains(f.kind.id)) QSKIP("this one may cause a knee fault");
        const auto p = performWith(formWith(f), {{std::string(f.kind.id), f.kind.usual}});
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.stance != StanceKind::Bow) continue;
            QVERIFY2(valueAt(p, phase, Measure::KneeLeadPastToe) < 0.02,
                     qPrintable(QString::number(valueAt(p, phase, Measure::KneeLeadPastToe))));
            QVERIFY(valueAt(p, phase, Measure::KneeLeadTrack) > -0.02);
        }
    }

    void aShortStepPutsTheKneePastTheToe()
    {
        const auto p = performWith("sparrow-tail", {{"stance-short", 0.22}});
        const PerformedPhase& arrive = phaseOf(p, "ward-off", "arrive");
        QVERIFY(valueAt(p, arrive, Measure::KneeLeadPastToe) > 0.0);
    }

    void stepsAreAsLongAndWideAsAsked()
    {
        const double foot = shipped().bodies.front().footLength();
        const auto longer = performWith("sparrow-tail", {{"stance-long", 0.05}});
        VERIFY_NEAR(valueAt(longer, phaseOf(longer, "push", "arrive"), Measure::StanceLength),
                    2.8 * foot + 0.05, 0.006);
        const auto wider = performWith("sparrow-tail", {{"stance-wide", 0.1}});
        VERIFY_NEAR(valueAt(wider, phaseOf(wider, "push", "arrive"), Measure::StanceWidth), 0.40, 0.006);
        // What comes later is placed from the foot that was moved.
        QVERIFY(valueAt(wider, wider.phases().back(), Measure::FeetParallelWidth) < 0.32);
    }

    void timingFaultsShowInTheWhole()
    {
        const auto clean = performWith("sparrow-tail", {});
        const auto whole = [](const Performance& p, const char* posture, const char* phase) {
            return phaseTruth(p, phaseOf(p, posture, phase));
        };
        const auto late = performWith("sparrow-tail", {{"hands-late", 0.6}});
        const auto early = performWith("sparrow-tail", {{"hands-early", 0.6}});
        QVERIFY(*whole(late, "push", "arrive").handsAfterWeight >
                *whole(clean, "push", "arrive").handsAfterWeight + 0.25);
        QVERIFY(*whole(early, "push", "arrive").handsAfterWeight <
                *whole(clean, "push", "arrive").handsAfterWeight - 0.25);
        const auto arms = performWith("sparrow-tail", {{"arms-first", 0.5}});
        QVERIFY(*whole(arms, "roll-back", "sit").turnLeads <
                *whole(clean, "roll-back", "sit").turnLeads - 0.25);
        const auto jerks = performWith("sparrow-tail", {{"transfer-jerks", 25}});
        QVERIFY(whole(jerks, "push", "arrive").backwardShift > 12);
        QVERIFY(whole(clean, "push", "arrive").backwardShift < 6);
        const auto bobs = performWith("sparrow-tail", {{"bobbing", 6}});
        QVERIFY(whole(bobs, "push", "arrive").bob > whole(clean, "push", "arrive").bob + 1.5);
        const auto drifts = performWith("sparrow-tail", {{"knee-drifts", 0.08}});
        QVERIFY(whole(drifts, "roll-back", "open").kneeDrift >
                whole(clean, "roll-back", "open").kneeDrift + 0.03);
        const auto stops = performWith("sparrow-tail", {{"stops", 1.0}});
        QVERIFY(stops.duration() > clean.duration() + 3);
        QCOMPARE(whole(clean, "push", "arrive").pauses, 0);
        QVERIFY(whole(stops, "push", "arrive").pauses >= 1);
        const auto rushed = performWith("sparrow-tail", {{"rushed", 0.4, "press"}});
        VERIFY_NEAR(whole(rushed, "push", "arrive").duration, whole(clean, "push", "arrive").duration, 1e-6);
        QVERIFY(whole(rushed, "press", "arrive").duration < 0.75 * whole(clean, "press", "arrive").duration);
    }

    void aStepTooSoonTakesTheWeightAlong()
    {
        // How much weight a leg still carries when it leaves the floor, at the worst step of the form.
        const auto worst = [](const Performance& p) {
            double most = 0;
            for (const FloorEvent& e : floorEvents(p))
                if (e.kind == FloorEvent::Kind::Lift) most = std::max(most, e.weight);
            return most;
        };
        const auto clean = performWith("brush-walk", {}),
                   early = performWith("brush-walk", {{"order-wrong", 0.4}});
        QVERIFY2(worst(clean) < 20, qPrintable(QString::number(worst(clean))));
        QVERIFY2(worst(early) > 28, qPrintable(QString::number(worst(early))));
        const auto longest = [](const Performance& p) {
            double most = 0;
            for (const PerformedPhase& phase : p.phases())
                most = std::max(most, phaseTruth(p, phase).order.shiftStep.value_or(0));
            return most;
        };
        QVERIFY(longest(early) > longest(clean) + 0.1);
        VERIFY_NEAR(early.duration(), clean.duration(), 1e-9);
    }

    void jerksBreakTheFlow()
    {
        // Times at which the hand nearly stops on its way through a move.
        const auto lulls = [](const Performance& p) {
            const PerformedPhase& push = phaseOf(p, "push", "arrive");
            std::vector<double> speed;
            constexpr double dt = 0.01;
            for (double t = push.begin + 0.1; t < push.time - 0.4; t += dt) {
                const auto wrist = [&](double at) { return p.figureAt(at).at(Landmark::LeftWrist); };
                speed.push_back((wrist(t + dt) - wrist(t)).norm() / dt);
            }
            int n = 0;
            for (std::size_t i = 1; i + 1 < speed.size(); ++i)
                n += speed[i] < speed[i - 1] && speed[i] <= speed[i + 1];
            return n;
        };
        QVERIFY(lulls(performWith("sparrow-tail", {})) <= 1);
        const auto jerky = performWith("sparrow-tail", {{"jerky", 0.9}}),
                   clean = performWith("sparrow-tail", {});
        QVERIFY(lulls(jerky) >= 2);
        const auto smoothness = [](const Performance& p) {
            return phaseTruth(p, phaseOf(p, "push", "arrive")).smoothness;
        };
        QVERIFY2(smoothness(jerky) < smoothness(clean) - 0.2,
                 qPrintable(QString("%1, %2").arg(smoothness(jerky)).arg(smoothness(clean))));
    }

    void smoothnessIsThatOfThePaper()
    {
        // One minimum-jerk move has a spectral arc length of about -1.6 to -1.4; two with a rest between,
        // less.
        const auto bell = [](double t) { return t < 0 || t > 1 ? 0 : 30 * t * t * (1 - t) * (1 - t); };
        std::vector<double> one, two;
        for (double t = 0; t < 2; t += 0.01) {
            one.push_back(bell(t / 2) / 2);
            two.push_back(bell(t / 0.9) / 2 + bell((t - 1.1) / 0.9) / 2);
        }
        const double smooth = spectralArcLength(one, 0.01), broken = spectralArcLength(two, 0.01);
        QVERIFY2(smooth > -1.7 && smooth < -1.3, qPrintable(QString::number(smooth)));
        QVERIFY2(broken < smooth - 0.3, qPrintable(QString::number(broken)));
        std::vector<double> slower;
        for (double s : one)
            slower.push_back(0.3 * s);
        VERIFY_NEAR(spectralArcLength(slower, 0.01), smooth, 1e-9); // speed does not count, only its shape
    }

    void sequenceFaultsChangeTheOrder()
    {
        const auto order = [](const Performance& p) {
            std::vector<std::string> postures;
            for (const PerformedPhase& phase : p.phases())
                if (postures.empty() || postures.back() != phase.posture) postures.push_back(phase.posture);
            return postures;
        };
        const auto has = [&](const Performance& p, const char* posture) {
            const auto all = order(p);
            return std::count(all.begin(), all.end(), posture);
        };
        QCOMPARE(has(performWith("sparrow-tail", {{"left-out", 1, "press"}}), "press"), 0);
        const auto twice = performWith("sparrow-tail", {{"repeated", 1, "push"}});
        QCOMPARE(
            std::count_if(twice.phases().begin(), twice.phases().end(),
                          [](const PerformedPhase& p) { return p.posture == "push" && p.phase == "arrive"; }),
            2);
        const auto swapped = order(performWith("sparrow-tail", {{"out-of-order", 1, "roll-back"}}));
        QCOMPARE(swapped[3], std::string("press"));
        QCOMPARE(swapped[4], std::string("roll-back"));
        const auto turned = performWith("sparrow-tail", {{"wrong-heading", 45, "push"}});
        QCOMPARE(phaseOf(turned, "push", "arrive").heading, 45.0);
        const auto side = performWith("first-eight", {{"wrong-side", 1, "white-crane"}});
        QCOMPARE(phaseOf(side, "white-crane", "extend").lead, Side::Right);
        PerformanceRequest wrong;
        wrong.faults = {{"left-out", 1, "cloud-hands"}};
        QCOMPARE(Performance::create(shipped().standards, wrong).error().exitCode(), 2);
    }

    void faultsCombine()
    {
        const auto p =
            performWith("sparrow-tail", {{"lean-forward", 8}, {"stance-short", 0.1}, {"shoulders-up", 10}});
        const PerformedPhase& push = phaseOf(p, "push", "arrive");
        VERIFY_NEAR(valueAt(p, push, Measure::TrunkLeanForward), 14, 1);
        VERIFY_NEAR(valueAt(p, push, Measure::StanceLength),
                    1.8 * shipped().bodies.front().footLength() - 0.1, 0.008);
        VERIFY_NEAR(valueAt(p, push, Measure::ShoulderLeadRaise), 82, 3);
    }

    void stepsLandOnTheHeel()
    {
        const auto p = performWith("full-24", {});
        int heel = 0, toe = 0;
        for (const FloorEvent& e : floorEvents(p)) {
            if (e.kind != FloorEvent::Kind::Contact) continue;
            heel += e.how == "heel";
            toe += e.how == "toe";
            QVERIFY2(e.weight < 20,
                     qPrintable(QString("a foot lands with %1 % at %2 s").arg(e.weight).arg(e.time)));
            QVERIFY2(e.drop < 0.16,
                     qPrintable(QString("the pelvis falls with %1 m/s at %2 s").arg(e.drop).arg(e.time)));
        }
        QVERIFY(heel > 12); // steps forward
        QVERIFY(toe >= 4);  // steps back, and feet that gather
    }

    void balanceIsKeptOnOneLeg()
    {
        const auto p = performWith("golden-rooster", {});
        for (const PerformedPhase& phase : p.phases())
            if (phase.stance == StanceKind::OneLeg) QVERIFY(valueAt(p, phase, Measure::BalanceMargin) > 0.01);
        // Standing on both feet the middle is far from every edge; in the air there is no edge at all.
        const auto standing = p.figureAt(0);
        QVERIFY(trueBalanceMargin(standing) > 0.06);
        Figure falling = standing;
        falling.velocity = {2, 0, 0};
        QVERIFY(trueBalanceMargin(falling) < 0);
    }
};

QTEST_APPLESS_MAIN(TestFaults)
#include "test_faults.moc"
