#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

Performance performBy(const BodyShape& body, const std::string& form)
{
    auto request = requestFor(form);
    request.body = body;
    return performAs(request);
}

BodyShape ordinary()
{
    return shipped().bodies.front();
}

double worst(const Performance& p, Measure m)
{
    double most = -1e9;
    for (const PerformedPhase& phase : p.phases())
        most = std::max(most, trueMeasure(m, p.figureAt(phase.time), phase.lead, phase.heading));
    return most;
}

} // namespace

class TestBodyAdaptation : public QObject
{
    Q_OBJECT

private slots:
    void whoMayNotKickTouchesWithTheToes()
    {
        BodyShape careful = ordinary();
        careful.kicks = false;
        const auto p = performBy(careful, "heel-kick"), free = performBy(ordinary(), "heel-kick");
        for (std::size_t i = 0; i < p.phases().size(); ++i) {
            if (p.phases()[i].stance != StanceKind::OneLeg) continue;
            const auto toes = [&](const Performance& q) {
                return q.figureAt(q.phases()[i].time).at(sided(Landmark::LeftToe, q.phases()[i].lead)).z();
            };
            QVERIFY(toes(p) < 0.06);
            QVERIFY(toes(free) > 0.2);
        }
    }

    void aKneeThatBendsLessStandsHigher()
    {
        BodyShape sore = ordinary();
        sore.kneeLimit = 62;
        const auto p = performBy(sore, "sparrow-tail"), free = performBy(ordinary(), "sparrow-tail");
        QVERIFY(worst(free, Measure::KneeLeadFlexion) > 66);
        QVERIFY(worst(p, Measure::KneeLeadFlexion) < worst(free, Measure::KneeLeadFlexion));
        QVERIFY(worst(p, Measure::PelvisHeight) >= worst(free, Measure::PelvisHeight));
    }

    void stiffHipsKeepThePelvisWithTheFoot()
    {
        BodyShape stiff = ordinary();
        stiff.hipTurnLimit = 20;
        const auto p = performBy(stiff, "sparrow-tail"), free = performBy(ordinary(), "sparrow-tail");
        const auto square = [](const Performance& q) {
            for (const PerformedPhase& phase : q.phases())
                if (phase.posture == "push" && phase.phase == "arrive")
                    return std::abs(trueMeasure(Measure::PelvisSquare, q.figureAt(phase.time), phase.lead,
                                                phase.heading));
            return -1.0;
        };
        QVERIFY(square(free) < 6);
        QVERIFY(square(p) > 15);
    }

    void ageRoundsTheBack()
    {
        BodyShape old = ordinary();
        old.stoop = 12;
        const auto p = performBy(old, "stand"), young = performBy(ordinary(), "stand");
        QVERIFY(worst(p, Measure::SpineRound) > worst(young, Measure::SpineRound) + 4);
        QVERIFY(worst(p, Measure::HeadForward) > worst(young, Measure::HeadForward) + 0.01);
    }
};

QTEST_APPLESS_MAIN(TestBodyAdaptation)
#include "test_body_adaptation.moc"
