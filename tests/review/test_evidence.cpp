#include "exchange/review_file.h"
#include "review/evidence.h"
#include "review/teaching.h"
#include "support/near.h"
#include "support/reviews.h"
#include "support/shipped.h"
#include <nlohmann/json.hpp>

using namespace jl;

namespace
{

ClipReading exactReading()
{
    const auto p = perform("teacher", 61);
    return readTrack(exactFrom(p, 90));
}

/// Changes one value in every phase in which it can be judged for a fault: change(value, band, stance, n) for
/// the n-th of them.
template <class Change>
Review withValues(const char* fault, const Change& change)
{
    ClipReading reading = exactReading();
    const Review clean = reviewOf(reading);
    const FaultRule& rule = *shipped().rules.find(fault);
    const auto m = static_cast<std::size_t>(*rule.measure);
    std::size_t n = 0, flat = 0;
    for (const ReviewedPosture& posture : clean.postures)
        for (const ReviewedPhase& phase : posture.phases) {
            Value& v = reading.phases[flat++].values[m];
            const JudgedValue& judged = phase.values[m];
            if (rule.holdsIn(phase.student.stance) && judged.value.seen() && judged.band)
                change(v, *judged.band, phase.student.stance, n++);
        }
    return reviewOf(reading);
}

/// Too little weight on the front leg: in the n-th phase by so many standard uncertainties, or not seen where
/// that is not a number.
Review withWeightShortBy(const std::vector<double>& uncertainties)
{
    constexpr double u = 3; // % of the weight
    return withValues("weight-short", [&](Value& v, const Band& band, StanceKind, std::size_t n) {
        const double by = uncertainties.at(n % uncertainties.size());
        v.u = u;
        v.status = std::isfinite(by) ? Status::Ok : Status::Unseen;
        if (v.seen()) v.value = band.low - by * u;
    });
}

std::vector<Finding> shortOf(const Review& r)
{
    std::vector<Finding> all;
    std::copy_if(r.findings.begin(), r.findings.end(), std::back_inserter(all),
                 [](const Finding& f) { return f.fault == "weight-short"; });
    return all;
}

} // namespace

class TestEvidence : public QObject
{
    Q_OBJECT

private slots:
    void oneValueSaysWhatItSays()
    {
        const PooledEvidence one = pooled({{0.08, 0.02, 0, {-0.2, 0.03}}}, true);
        VERIFY_NEAR(one.beyond, 0.05, 1e-12);
        VERIFY_NEAR(one.u, 0.02, 1e-12);
        QCOMPARE(one.phases, std::size_t(1));
        QCOMPARE(pooled({}, true).phases, std::size_t(0));
    }

    /// Many values narrow the uncertainty, but never below what they have in common.
    void manyValuesSayMoreButNotEverything()
    {
        const Band band{60, 80};
        const auto spreadOf = [&](std::size_t n) {
            return pooled(std::vector<PhaseEvidence>(n, {58, 4, 0, band}), false).u;
        };
        QVERIFY(spreadOf(2) < 4 && spreadOf(4) < spreadOf(2) && spreadOf(1000) < spreadOf(4));
        QVERIFY(spreadOf(1000) > 0.5 * 4);
        // n equal values: u^2 = u1^2 (r + (1 - r) / n), so that two numbers give r, and a third proves it.
        const double two = spreadOf(2) * spreadOf(2) / 16, r = 2 * two - 1;
        VERIFY_NEAR(spreadOf(8) * spreadOf(8) / 16, r + (1 - r) / 8, 1e-9);
    }

    void theSurestCountMost()
    {
        const Band band{60, 80};
        // What belongs to the body is the same in every phase.
        const auto common = [&](std::size_t n) {
            return pooled(std::vector<PhaseEvidence>(n, {58, 5, 3, band}), false).u;
        };
        VERIFY_NEAR(common(1), 5, 1e-12);
        const double own = pooled(std::vector<PhaseEvidence>(4, {58, 4, 0, band}), false).u;
        VERIFY_NEAR(common(4), std::hypot(own, 3), 1e-12);
        const PooledEvidence both = pooled({{50, 1, 0, band}, {70, 10, 0, band}}, false);
        VERIFY_NEAR(both.beyond, (10 * 1 + -10 * 0.01) / 1.01, 1e-9);
        QVERIFY(both.u < 1.2);
        VERIFY_NEAR(pooled({{85, 1, 0, band}}, false).beyond, -25, 1e-12); // far on the other side
    }

    void whatEveryPhaseHintsAtIsAFault()
    {
        const Review r = withWeightShortBy({1.1}); // each alone would have to be short by 1.8
        const std::vector<Finding> found = shortOf(r);
        QVERIFY(found.size() >= 4);
        for (const Finding& f : found) {
            QCOMPARE(f.severity, Severity::Fault);
            QVERIFY(f.together);
        }
        const auto taught = std::find_if(r.teach.begin(), r.teach.end(),
                                         [](const Correction& c) { return c.fault == "weight-short"; });
        QVERIFY(taught != r.teach.end());
        QVERIFY2(taught->whyNow.find("together") != std::string::npos, taught->whyNow.c_str());
        const auto written = nlohmann::json::parse(reviewJson(r)); // lives longer than the loop over its part
        for (const auto& f : written.at("findings"))
            if (f.at("fault") == "weight-short") QVERIFY(f.at("together").get<bool>());
    }

    void aClipOfOnePhaseIsAskedOnce()
    {
        std::vector<double> phases(30, std::nan(""));
        phases.front() = 1.4; // among several it would have to be short by 1.8
        const std::vector<Finding> found = shortOf(withWeightShortBy(phases));
        QCOMPARE(found.size(), std::size_t(1));
        QCOMPARE(found.front().severity, Severity::Fault);
        QVERIFY2(!found.front().together, "there are no others to weigh it with");
        phases.front() = 1.02;
        for (const Finding& f : shortOf(withWeightShortBy(phases)))
            QCOMPARE(f.severity, Severity::Watch);
    }

    void aMatterOfSafetyIsNotAskedOfOnePhase()
    {
        const auto claims = [](std::size_t phasesShown) {
            const Review r =
                withValues("knee-past-toe", [&](Value& v, const Band& band, StanceKind, std::size_t n) {
                    v.status = n < phasesShown ? Status::Ok : Status::Unseen;
                    v.u = 0.011; // m
                    v.value = band.high + 2.1 * v.u;
                });
            return std::ranges::count_if(r.findings, [](const Finding& f) {
                return f.fault == "knee-past-toe" && f.severity == Severity::Safety;
            });
        };
        QCOMPARE(claims(1), 0); // alone it would have to stand out by 2.33
        QCOMPARE(claims(2), 2);
    }

    void whatOnePhaseHintsAtIsWatched()
    {
        const std::vector<Finding> found = shortOf(withWeightShortBy({1.55, -1, -1, -1}));
        QVERIFY(!found.empty());
        for (const Finding& f : found)
            QCOMPARE(f.severity, Severity::Watch);
    }

    void whatIsWrongInPosesNeedNotBeSoOnTheWay()
    {
        std::size_t steps = 0;
        const Review r =
            withValues("shoulders-up", [&](Value& v, const Band& band, StanceKind stance, std::size_t) {
                const bool onTheWay = stance == StanceKind::Step;
                steps += onTheWay;
                v.u = 4; // % of standing
                v.common = 0;
                v.value = band.low + (onTheWay ? 3.0 : -1.75) * v.u; // its doubt asks for more than 1.05
            });
        QVERIFY(steps > 0);
        int found = 0;
        for (const Finding& f : r.findings) {
            if (f.fault != "shoulders-up") continue;
            QVERIFY(f.together && f.severity == Severity::Fault);
            QVERIFY(r.postures[f.posture].phases[f.phase].student.stance != StanceKind::Step);
            ++found;
        }
        QVERIFY2(found > 3, qPrintable(QString::number(found)));
    }

    void whatIsSureAloneNeedsNoOther()
    {
        for (const Finding& f : shortOf(withWeightShortBy({3}))) {
            QCOMPARE(f.severity, Severity::Fault);
            QVERIFY(!f.together);
        }
    }
};

QTEST_APPLESS_MAIN(TestEvidence)
#include "test_evidence.moc"
