#include "base/angles.h"
#include "measure/derived_value.h"
#include "performer/derived_truth.h"
#include "performer/truth.h"
#include "support/forms.h"
#include "support/near.h"
#include <map>

using namespace jl;

namespace
{

std::vector<Value> exactly(const Figure& f, const PerformedPhase& phase)
{
    std::vector<Value> values;
    for (const MeasureInfo& m : allMeasures()) {
        Value v;
        v.measure = m.measure;
        v.status = Status::Ok;
        v.value = trueMeasure(m.measure, f, phase.lead, phase.heading);
        v.u = 0.01;
        values.push_back(v);
    }
    return values;
}

std::map<std::string_view, DerivedValue> byId(const std::vector<DerivedValue>& derived)
{
    std::map<std::string_view, DerivedValue> all;
    for (const DerivedValue& d : derived)
        all.emplace(d.id, d);
    return all;
}

Value& in(std::vector<Value>& values, Measure m)
{
    return values[static_cast<std::size_t>(m)];
}

} // namespace

/// Values told in other ways, against the exact body.
class TestDerivedValue : public QObject
{
    Q_OBJECT

private slots:
    void theyAreTrueWhereTheirMeasuresAre_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<bool>("left");
        for (const char* form : {"single-whip", "push", "cloud-hands", "heel-kick"})
            for (bool left : {true, false})
                QTest::addRow("%s %s", form, left ? "left" : "right") << form << left;
    }

    void theyAreTrueWhereTheirMeasuresAre()
    {
        QFETCH(QString, form);
        QFETCH(bool, left);
        const auto p = performForm(form.toStdString(), left ? Side::Left : Side::Right);
        PersonProfile known;
        known.height = p.body().height;
        known.footLength = p.body().footLength();
        const OwnLengths own = OwnLengths::of(known, BodyLengths::usual(p.body().height));
        for (const PerformedPhase& phase : p.phases()) {
            const Figure f = p.figureAt(phase.time);
            const auto told = byId(derivedValues(exactly(f, phase), phase.lead, phase.heading, own));
            const auto truth = derivedTruth(f, phase.lead, phase.heading);
            QCOMPARE(told.size(), truth.size());
            for (const NamedTruth& t : truth) {
                QVERIFY2(told.contains(t.id), std::string(t.id).c_str());
                const DerivedValue& d = told.at(t.id);
                // Usual proportions and the ankle beside the foot's axis make up the rest.
                const double within = d.unit == DerivedUnit::Degree
                                          ? (t.id.find("track") != t.id.npos ? 1.5 : 1e-6)
                                      : d.unit == DerivedUnit::PerCent ? 1e-6
                                                                       : 2 * d.value.u + 1e-9;
                const double off = d.value.value - t.value;
                QVERIFY2(std::abs(d.unit == DerivedUnit::Degree ? wrapDeg(off) : off) <= within,
                         qPrintable(QString("%1: %2 for %3")
                                        .arg(std::string(t.id).c_str())
                                        .arg(d.value.value)
                                        .arg(t.value)));
            }
        }
    }

    void theUncertaintyIsToldTheSameWay()
    {
        std::vector<Value> values =
            exactly(performForm("push").figureAt(0), performForm("push").phases().front());
        in(values, Measure::StanceLength).value = 0.52;
        in(values, Measure::StanceLength).u = 0.026;
        in(values, Measure::KneeLeadTrack).value = -0.041;
        in(values, Measure::KneeLeadTrack).u = 0.0205;
        PersonProfile person;
        person.height = 1.70;
        const BodyLengths lengths = BodyLengths::usual(1.70);
        const auto of = [&](std::string_view id) {
            return byId(derivedValues(values, Side::Right, 0, OwnLengths::of(person, lengths))).at(id).value;
        };
        const double usual = of("stance.length.feet").u;
        person.footLength = 0.26;
        VERIFY_NEAR(of("stance.length.feet").value, 2.0, 1e-9);
        VERIFY_NEAR(of("stance.length.feet").u, std::hypot(0.1, 0.02), 1e-9); // 5 and 1 percent of 2
        QVERIFY(of("stance.length.feet").u < usual);                          // a foot that is not known
        VERIFY_NEAR(of("knee.lead.track.angle").value, -5.74, 0.02);          // asin(-0.1)
        VERIFY_NEAR(of("knee.lead.track.angle").u, 0.05 * kDegPerRad, 0.05);
        QCOMPARE(of("weight.L").u, in(values, Measure::WeightLead).u);
    }

    void whatIsNotSeenStaysSo()
    {
        const auto p = performForm("push");
        std::vector<Value> values = exactly(p.figureAt(0), p.phases().front());
        for (Value& v : values)
            v.view = View::SideFar;
        in(values, Measure::FootRearAngle).status = Status::Unseen;
        in(values, Measure::WeightLead).status = Status::Weak;
        const auto told =
            byId(derivedValues(values, Side::Right, 0, OwnLengths::of({}, BodyLengths::usual(1.7))));
        QVERIFY(!told.at("foot.L.heading").value.seen());
        QVERIFY(!told.at("foot.L.heading.offset").value.seen());
        QVERIFY(told.at("foot.R.heading").value.seen());
        QVERIFY(!told.at("weight.L").value.isCertain());
        QCOMPARE(told.at("hands.apart.shoulders").value.view, View::SideFar);
    }
};

QTEST_APPLESS_MAIN(TestDerivedValue)
#include "test_derived_value.moc"
