#include "performer/events.h"
#include "performer/fault_table.h"
#include "performer/truth.h"
#include "support/near.h"
#include "support/shipped.h"
#include <set>

using namespace jl;

namespace
{

Performance performForm(const std::string& form, std::vector<FaultRequest> faults, const std::string& school)
{
    PerformanceRequest request;
    request.form = form;
    request.school = school;
    request.body = shipped().bodies.front();
    request.faults = std::move(faults);
    const auto performance = Performance::create(shipped().standards, request);
    if (!performance) qFatal("%s", performance.error().message().c_str());
    return *performance;
}

double valueAt(const Performance& p, const PerformedPhase& phase, Measure m)
{
    return trueMeasure(m, p.movingFigureAt(phase.time), phase.lead, phase.heading);
}

/// A form in which the stance occurs.
std::string formWith(const PoseFault& fault)
{
    if (fault.stances == "one-leg")
        return fault.kind.id == "kick-too-high" || fault.kind.id == "arm-off-leg" ? "heel-kick"
                                                                                  : "golden-rooster";
    return "sparrow-tail";
}

const PerformedPhase& phaseOf(const Performance& p, const std::string& posture, const std::string& phase)
{
    for (const PerformedPhase& each : p.phases())
        if (each.posture == posture && each.phase == phase) return each;
    qFatal("no phase %s", phase.c_str());
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
        const std::string form = formWith(f), id(f.kind.id), school = "upright-broad";
        const auto clean = performForm(form, {}, school),
                   spoilt = performForm(form, {{id, f.kind.usual}}, school);
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
        // These load or turn the front leg, so that its knee follows by itself.
        const std::set<std::string_view> causes{"weight-over",     "double-weighted", "foot-lead-turned",
                                                "hips-not-square", "heel-peels",      "hips-left-behind",
                                                "turn-short",      "falls-into-step", "lean-back"};
        if (causes.contains(f.kind.id)) QSKIP("this one may cause a knee fault");
        const auto p = performForm(formWith(f), {{std::string(f.kind.id), f.kind.usual}}, "upright-broad");
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.stance != "bow") continue;
            QVERIFY2(valueAt(p, phase, Measure::KneeLeadPastToe) < 0.02,
                     qPrintable(QString::number(valueAt(p, phase, Measure::KneeLeadPastToe))));
            QVERIFY(valueAt(p, phase, Measure::KneeLeadTrack) > -0.02);
        }
    }

    void aShortStepPutsTheKneePastTheToe()
    {
        const auto p = performForm("sparrow-tail", {{"stance-short", 0.22}}, "upright-broad");
        const PerformedPhase& arrive = phaseOf(p, "ward-off", "arrive");
        QVERIFY(valueAt(p, arrive, Measure::KneeLeadPastToe) > 0.0);
    }

    void stepsAreAsLongAndWideAsAsked()
    {
        const double foot = shipped().bodies.front().footLength();
        const auto longer = performForm("sparrow-tail", {{"stance-long", 0.05}}, "upright-broad");
        VERIFY_NEAR(valueAt(longer, phaseOf(longer, "push", "arrive"), Measure::StanceLength),
                    2.8 * foot + 0.05, 0.006);
        const auto wider = performForm("sparrow-tail", {{"stance-wide", 0.1}}, "upright-broad");
        VERIFY_NEAR(valueAt(wider, phaseOf(wider, "push", "arrive"), Measure::StanceWidth), 0.40, 0.006);
        // What comes later is placed from the foot that was moved.
        QVERIFY(valueAt(wider, wider.phases().back(), Measure::FeetParallelWidth) < 0.32);
    }

    void timingFaultsShowInTheWhole()
    {
        const auto clean = performForm("sparrow-tail", {}, "upright-broad");
        const auto whole = [](const Performance& p, const char* posture, const char* phase) {
            return phaseTruth(p, phaseOf(p, posture, phase));
        };
        const auto late = performForm("sparrow-tail", {{"hands-late", 0.6}}, "upright-broad");
        const auto early = performForm("sparrow-tail", {{"hands-early", 0.6}}, "upright-broad");
        QVERIFY(*whole(late, "push", "arrive").handsAfterWeight >
                *whole(clean, "push", "arrive").handsAfterWeight + 0.25);
        QVERIFY(*whole(early, "push", "arrive").handsAfterWeight <
                *whole(clean, "push", "arrive").handsAfterWeight - 0.25);
        const auto arms = performForm("sparrow-tail", {{"arms-first", 0.5}}, "upright-broad");
        QVERIFY(*whole(arms, "roll-back", "sit").turnLeads <
                *whole(clean, "roll-back", "sit").turnLeads - 0.25);
        const auto jerks = performForm("sparrow-tail", {{"transfer-jerks", 25}}, "upright-broad");
        QVERIFY(whole(jerks, "push", "arrive").backwardShift > 12);
        QVERIFY(whole(clean, "push", "arrive").backwardShift < 6);
        const auto bobs = performForm("sparrow-tail", {{"bobbing", 6}}, "upright-broad");
        QVERIFY(whole(bobs, "push", "arrive").bob > whole(clean, "push", "arrive").bob + 1.5);
        const auto drifts = performForm("sparrow-tail", {{"knee-drifts", 0.08}}, "upright-broad");
        QVERIFY(whole(drifts, "roll-back", "open").kneeDrift >
                whole(clean, "roll-back", "open").kneeDrift + 0.03);
        const auto stops = performForm("sparrow-tail", {{"stops", 1.0}}, "upright-broad");
        QVERIFY(stops.duration() > clean.duration() + 3);
        const auto rushed = performForm("sparrow-tail", {{"rushed", 0.4, "press"}}, "upright-broad");
        VERIFY_NEAR(whole(rushed, "push", "arrive").duration, whole(clean, "push", "arrive").duration, 1e-6);
        QVERIFY(whole(rushed, "press", "arrive").duration < 0.75 * whole(clean, "press", "arrive").duration);
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
        QCOMPARE(has(performForm("sparrow-tail", {{"left-out", 1, "press"}}, "upright-broad"), "press"), 0);
        const auto twice = performForm("sparrow-tail", {{"repeated", 1, "push"}}, "upright-broad");
        QCOMPARE(
            std::count_if(twice.phases().begin(), twice.phases().end(),
                          [](const PerformedPhase& p) { return p.posture == "push" && p.phase == "arrive"; }),
            2);
        const auto swapped =
            order(performForm("sparrow-tail", {{"out-of-order", 1, "roll-back"}}, "upright-broad"));
        QCOMPARE(swapped[3], std::string("press"));
        QCOMPARE(swapped[4], std::string("roll-back"));
        const auto turned = performForm("sparrow-tail", {{"wrong-heading", 45, "push"}}, "upright-broad");
        QCOMPARE(phaseOf(turned, "push", "arrive").heading, 45.0);
        const auto side = performForm("first-eight", {{"wrong-side", 1, "white-crane"}}, "upright-broad");
        QCOMPARE(phaseOf(side, "white-crane", "extend").lead, Side::Right);
        PerformanceRequest wrong;
        wrong.faults = {{"left-out", 1, "cloud-hands"}};
        QCOMPARE(Performance::create(shipped().standards, wrong).error().exitCode(), 2);
    }

    void faultsCombine()
    {
        const auto p =
            performForm("sparrow-tail", {{"lean-forward", 8}, {"stance-short", 0.1}, {"shoulders-up", 10}},
                        "upright-broad");
        const PerformedPhase& push = phaseOf(p, "push", "arrive");
        VERIFY_NEAR(valueAt(p, push, Measure::TrunkLeanForward), 14, 1);
        VERIFY_NEAR(valueAt(p, push, Measure::StanceLength),
                    1.8 * shipped().bodies.front().footLength() - 0.1, 0.008);
        VERIFY_NEAR(valueAt(p, push, Measure::ShoulderLeadRaise), 82, 3);
    }

    void stepsLandOnTheHeel()
    {
        const auto p = performForm("full-24", {}, "upright-broad");
        int heel = 0, toe = 0;
        for (const FloorEvent& e : floorEvents(p)) {
            if (e.kind != FloorEvent::Kind::Contact) continue;
            heel += e.how == "heel";
            toe += e.how == "toe";
            QVERIFY2(e.weight < 20,
                     qPrintable(QString("a foot lands with %1 % at %2 s").arg(e.weight).arg(e.time)));
            QVERIFY2(e.drop < 0.25,
                     qPrintable(QString("the pelvis falls with %1 m/s at %2 s").arg(e.drop).arg(e.time)));
        }
        QVERIFY(heel > 12); // steps forward
        QVERIFY(toe >= 4);  // steps back, and feet that gather
    }

    void balanceIsKeptOnOneLeg()
    {
        const auto p = performForm("golden-rooster", {}, "upright-broad");
        for (const PerformedPhase& phase : p.phases())
            if (phase.stance == "one-leg") QVERIFY(valueAt(p, phase, Measure::BalanceMargin) > 0.01);
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
