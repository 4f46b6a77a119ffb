#include "performer/fault_table.h"
#include "performer/phase_truth.h"
#include "support/forms.h"
#include "support/knee_causes.h"
#include "support/near.h"
#include <functional>
#include <map>

using namespace jl;

namespace
{

/// How far from the faultless value a teacher would still pass a measure for which neither a school nor a
/// fixed limit says it. Units of the measure.
const std::map<std::string_view, double> kTolerance{
    {"flat-landing", 0.02},
    {"step-from-high", 4},
    {"hips-not-square", 12},
    {"turn-short", 12},
    {"hips-left-behind", 12},
    {"line-broken", 12},
    {"head-forward", 0.03},
    {"elbow-up", 0.05},
    {"arm-collapsed", 12},
    {"hand-off-centre", 0.08},
    {"hand-height", 15},
    {"hands-apart", 0.10},
    {"arm-off-leg", 12},
    {"kick-too-high", 10},
    {"elbow-up-other", 0.05},
    {"arm-collapsed-other", 12},
    {"hand-off-centre-other", 0.08},
    {"hand-across", 0.08},
    {"hand-across-other", 0.08},
    {"hand-low", 15},
    {"hand-high-other", 15},
    {"hand-low-other", 15},
    {"hands-close", 0.10},
    {"hips-over-turned", 12},
    {"turn-over", 12},
    {"hips-ahead", 12},
    {"rear-foot-closed", 12},
    {"foot-lead-turned-in", 9},
    {"stands-toes-out-lead", 10},
    {"stands-toes-out-rear", 10},

};

const char* const kSchools[] = {"upright-broad", "inclined-straight", "spiral", "gentle", "compact"};

std::string formWith(const PoseFault& fault)
{
    if (fault.stances != StanceSet{StanceKind::OneLeg})
        return fault.stances.contains(StanceKind::EmptyToe) && !fault.stances.contains(StanceKind::Bow)
                   ? "first-eight"
                   : "sparrow-tail";
    return fault.kind.id == "kick-too-high" || fault.kind.id == "arm-off-leg" ? "heel-kick"
                                                                              : "golden-rooster";
}

const Performance& cleanOf(const std::string& form, const std::string& school)
{
    static std::map<std::pair<std::string, std::string>, Performance> kept;
    const auto key = std::pair(form, school);
    const auto found = kept.find(key);
    return found != kept.end() ? found->second
                               : kept.emplace(key, performAs(requestFor(form, school))).first->second;
}

Result<Performance> with(const std::string& form, const std::string& school, FaultRequest fault)
{
    auto request = requestFor(form, school);
    request.faults = {std::move(fault)};
    return Performance::create(shipped().standards, request);
}

std::optional<Band> bandOf(const Performance& p, const PerformedPhase& phase, const std::string& school,
                           Measure m)
{
    const auto& standards = shipped().standards;
    const Bands bands = standards.bandsFor(standards.phase(phase.posture, phase.phase),
                                           *standards.school(school), p.body().footLength());
    const auto band = bands.find(m);
    return band == bands.end() ? std::nullopt : std::optional(band->second);
}

/// Whether no front knee leaves its safety band where it was inside without the fault.
bool kneesStayAsTheyWere(const Performance& clean, const Performance& spoilt)
{
    for (std::size_t i = 0; i < clean.phases().size(); ++i) {
        if (clean.phases()[i].stance != StanceKind::Bow) continue;
        const auto both = [&](Measure m) {
            return std::pair(valueAt(clean, clean.phases()[i], m), valueAt(spoilt, spoilt.phases()[i], m));
        };
        const auto [toeClean, toe] = both(Measure::KneeLeadPastToe);
        const auto [trackClean, track] = both(Measure::KneeLeadTrack);
        if (toe > std::max(0.02, toeClean + 0.005) || track < std::min(-0.02, trackClean - 0.005))
            return false;
    }
    return true;
}

} // namespace

/// Each fault at one and a half times what is allowed lies outside of it, in every school.
class TestFaultBands : public QObject
{
    Q_OBJECT

private slots:
    void poseFaults_data()
    {
        QTest::addColumn<int>("fault");
        for (std::size_t i = 0; i < jl::poseFaults().size(); ++i)
            QTest::newRow(std::string(jl::poseFaults()[i].kind.id).c_str()) << static_cast<int>(i);
    }

    void poseFaults()
    {
        QFETCH(int, fault);
        const PoseFault& f = jl::poseFaults()[static_cast<std::size_t>(fault)];
        const std::string id(f.kind.id), form = formWith(f);
        for (const char* school : kSchools) {
            // These stand so high before their steps that legs are too short to rise by that much more.
            const bool high =
                std::string_view(school) == "inclined-straight" || std::string_view(school) == "compact";
            if (id == "step-from-high" && high) continue;
            const Performance& clean = cleanOf(form, school);
            int shown = 0;
            for (std::size_t i = 0; i < clean.phases().size() && shown < 3; ++i) {
                const PerformedPhase& phase = clean.phases()[i];
                if (!f.stances.contains(phase.stance)) continue;
                const double own = valueAt(clean, phase, *f.kind.measure);
                const auto band = f.bySchool ? bandOf(clean, phase, school, *f.kind.measure) : std::nullopt;
                // The edge that is crossed, and half of the way from the middle of what is allowed to it.
                double edge = 0, beyond = 0, size = 0;
                if (band) {
                    edge = f.above ? band->high : band->low;
                    size = 0.25 * (band->high - band->low);
                    if (f.above && f.kind.unit == "%") size = std::min(size, 0.5 * (100 - edge));
                } else if (f.limit) {
                    edge = *f.limit;
                    size = 0.5 * std::abs(edge - own);
                } else {
                    QVERIFY2(kTolerance.contains(id), id.c_str());
                    const double allowed = kTolerance.at(id);
                    beyond = 0.5 * allowed;
                    size = 1.5 * allowed;
                }
                size = std::min(size, f.kind.largest);
                const auto spoilt = with(form, school, {id, size, phase.posture, phase.phase});
                if (!spoilt) continue; // this phase leaves no room for it
                const double now = valueAt(*spoilt, spoilt->phases()[i], *f.kind.measure);
                const QString seen = QString("%1, %2/%3: %4 becomes %5, the edge is %6, size %7")
                                         .arg(school, phase.posture.c_str(), phase.phase.c_str())
                                         .arg(own)
                                         .arg(now)
                                         .arg(edge)
                                         .arg(size);
                if (!band && !f.limit)
                    QVERIFY2(std::abs(now - own) > kTolerance.at(id) + 0.5 * beyond, qPrintable(seen));
                else
                    QVERIFY2(f.above ? now > edge : now < edge, qPrintable(seen));
                // Whoever leans back brings the hips forward to keep the weight, and the knee with them.
                const bool mayMoveKnee = kKneeCauses.contains(id) || f.knob == Knob::LeanBack;
                if (!mayMoveKnee) QVERIFY2(kneesStayAsTheyWere(clean, *spoilt), qPrintable(seen));
                ++shown;
            }
            QVERIFY2(shown > 0, school);
        }
    }

    void stepsAndKnees_data()
    {
        QTest::addColumn<QString>("id");
        for (const char* id :
             {"knee-past-toe", "knee-caves-lead", "stance-short", "stance-long", "one-line", "stance-wide"})
            QTest::newRow(id) << id;
    }

    void stepsAndKnees()
    {
        QFETCH(QString, id);
        const std::string fault = id.toStdString();
        const auto kind = std::find_if(faultKinds().begin(), faultKinds().end(),
                                       [&](const FaultKind& k) { return k.id == fault; });
        for (const char* school : kSchools) {
            const Performance& clean = cleanOf("sparrow-tail", school);
            for (std::size_t i = 0; i < clean.phases().size(); ++i) {
                const PerformedPhase& phase = clean.phases()[i];
                if (phase.stance != StanceKind::Bow) continue;
                const auto band = bandOf(clean, phase, school, *kind->measure);
                if (!band) continue;
                // What these sizes count from: the toe's tip, the foot's axis, or the band's edge.
                const double half = 0.5 * (band->high - band->low);
                const bool above =
                    fault == "knee-past-toe" || fault == "stance-long" || fault == "stance-wide";
                double size = 0.5 * half;
                if (fault == "knee-caves-lead") size = 1.5 * 0.02;
                if (fault == "knee-past-toe") size = 1.5 * 0.02;
                size = std::min(size, kind->largest);
                const auto spoilt = with("sparrow-tail", school, {fault, size, phase.posture, {}});
                QVERIFY2(spoilt, school);
                const double now = valueAt(*spoilt, spoilt->phases()[i], *kind->measure);
                QVERIFY2(above ? now > band->high : now < band->low,
                         qPrintable(QString("%1, %2/%3: %4 against %5 to %6, size %7")
                                        .arg(school, phase.posture.c_str(), phase.phase.c_str())
                                        .arg(now)
                                        .arg(band->low)
                                        .arg(band->high)
                                        .arg(size)));
                break;
            }
        }
    }

    void movesAndOrder()
    {
        struct Row {
            const char *fault, *form;
            double size; ///< one and a half times what is allowed
            std::function<bool(const PhaseTruth& clean, const PhaseTruth& spoilt)> out;
        };
        const auto less = [](std::optional<double> v, double limit) { return v && *v < limit; };
        const auto more = [](std::optional<double> v, double limit) { return v && *v > limit; };
        const std::vector<Row> rows{
            {"knee-drifts", "sparrow-tail", 0.06, [](auto&, auto& s) { return s.kneeDrift > 0.04; }},
            {"transfer-jerks", "sparrow-tail", 18, [](auto&, auto& s) { return s.backwardShift > 12; }},
            {"arms-first", "sparrow-tail", 0.18, [&](auto&, auto& s) { return less(s.turnLeads, -0.12); }},
            {"hands-late", "sparrow-tail", 0.30,
             [&](auto&, auto& s) { return more(s.handsAfterWeight, 0.2); }},
            {"hands-early", "sparrow-tail", 0.30,
             [&](auto&, auto& s) { return less(s.handsAfterWeight, -0.2); }},
            {"order-wrong", "brush-walk", 0.225,
             [&](auto&, auto& s) { return more(s.order.shiftStep, 0.15); }},
            {"stops", "sparrow-tail", 0.45, [](auto&, auto& s) { return s.pauses >= 1; }},
            {"bobbing", "sparrow-tail", 4.5, [](auto& c, auto& s) { return s.bob > std::max(3.0, c.bob); }},
            {"rushed", "sparrow-tail", 0.3, [](auto& c, auto& s) { return s.duration < 0.8 * c.duration; }},
            {"dragged", "sparrow-tail", 0.45,
             [](auto& c, auto& s) { return s.duration > 1.25 * c.duration; }},
            {"jerky", "sparrow-tail", 0.8,
             [](auto& c, auto& s) { return s.smoothness < c.smoothness - 0.15; }},
        };
        for (const Row& row : rows)
            for (const char* school : kSchools) {
                const Performance& clean = cleanOf(row.form, school);
                const auto made = with(row.form, school, {row.fault, row.size});
                QVERIFY2(made, row.fault);
                const Performance& spoilt = *made;
                int out = 0;
                QString seen;
                for (std::size_t i = 0; i < spoilt.phases().size(); ++i) {
                    const PerformedPhase& phase = spoilt.phases()[i];
                    const bool listed = std::any_of(
                        spoilt.faults().begin(), spoilt.faults().end(), [&](const PerformedFault& f) {
                            return f.posture == phase.posture && f.phase == phase.phase;
                        });
                    if (!listed) continue;
                    const PhaseTruth s = phaseTruth(spoilt, phase);
                    out += row.out(phaseTruth(clean, clean.phases()[i]), s);
                    seen += QString(" %1/%2").arg(phase.posture.c_str(), phase.phase.c_str());
                }
                QVERIFY2(out > 0, qPrintable(QString("%1, %2:%3").arg(row.fault, school, seen)));
            }
    }
};

QTEST_APPLESS_MAIN(TestFaultBands)
#include "test_fault_bands.moc"
