#include "base/angles.h"
#include "measure/body_shift.h"
#include "measure/measure_value.h"
#include "measure/phase_courses.h"
#include "performer/events.h"
#include "performer/whole_truth.h"
#include "reading/measure_course.h"
#include "reading/whole_phases.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/stick_body.h"

using namespace jl;
using Eigen::Vector3d;

namespace
{

/// A stick body in a stance with the right foot ahead by so much and to the right by so much, its middle over
/// the given share of the line from the rear foot.
BodyPoints inStance(double ahead, double aside, double share)
{
    using enum Landmark;
    BodyPoints p = stickBody();
    const Vector3d step(aside - 0.30, ahead, 0); // the feet stand 0.30 m apart already
    for (Landmark l : {RightAnkle, RightHeel, RightToe})
        p[index(l)] += step;
    const auto overLine = [&](const BodyPoints& b) {
        return measureValue(Measure::WeightLead, b, {}, Side::Right, 0) / 100;
    };
    const Vector3d across(aside, ahead, 0);
    for (int i = 0; i < 8; ++i) // knees go half the way, so that the share is met in steps
        p = bodyMoved(p, (share - overLine(p)) * across);
    return p;
}

/// What a picture gives that is taken along `sight`: every point lies on its line of sight, at the depth
/// along `normal` that is expected of it.
BodyPoints flattened(BodyPoints seen, const BodyPoints& expected, const Vector3d& sight = Vector3d::UnitX(),
                     const Vector3d& normal = Vector3d::UnitX())
{
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        seen[i] += sight * (expected[i] - seen[i]).dot(normal) / sight.dot(normal);
    return seen;
}

double shareOf(const BodyPoints& points)
{
    return measureValue(Measure::WeightLead, points, {}, Side::Right, 0);
}

ClipReading readExactly(const Performance& p, const char* form, const char* school, double azimuth,
                        const MeasuringTables& tables = {})
{
    return readTrack(
        exactTrack(p, from(azimuth)),
        {.form = form, .school = school, .height = p.body().height, .lead = p.lead(), .tables = tables});
}

ClipReading sectionFromTheSide()
{
    return readExactly(perform(), "sparrow-tail", "upright-broad", 90, shipped().tables);
}

} // namespace

/// The weight of a wide stance, seen from the side.
class TestBodyShift : public QObject
{
    Q_OBJECT

private slots:
    void aShiftLeadsAlongTheLineBetweenTheFeet()
    {
        const BodyPoints expected = inStance(0.5, 0.4, 0.7), really = inStance(0.5, 0.4, 0.4);
        const BodyPoints seen = flattened(really, expected);
        QVERIFY2(shareOf(seen) > 48, "the picture by itself draws the share towards the expected one");
        const double shift = bodyShift(seen, expected, Side::Right, Vector3d::UnitX());
        VERIFY_NEAR(shareOf(flattened(really, bodyMoved(expected, shift * Vector3d::UnitX()))), 40, 1.5);
    }

    /// From the corner the line of sight is far from square to the plane on which points are placed.
    void aCornerViewTellsAShiftToo()
    {
        const BodyPoints expected = inStance(0.6, 0.2, 0.7), really = inStance(0.6, 0.2, 0.9);
        const Vector3d sight = forwardOf(-40), normal = Vector3d::UnitY();
        const BodyPoints seen = flattened(really, expected, sight, normal);
        QVERIFY2(std::abs(shareOf(seen) - 90) > 10, "the plane by itself draws the share aside");
        const double shift = bodyShift(seen, expected, Side::Right, sight) * sight.dot(normal);
        VERIFY_NEAR(shareOf(flattened(really, bodyMoved(expected, shift * normal), sight, normal)), 90, 2);
    }

    void whatIsAsExpectedStays()
    {
        const BodyPoints p = inStance(0.5, 0.4, 0.6);
        VERIFY_NEAR(bodyShift(p, p, Side::Right, Vector3d::UnitX()), 0, 1e-9);
    }

    void feetOneBehindTheOtherTellNothing()
    {
        const BodyPoints expected = inStance(0.1, 0.5, 0.7),
                         seen = flattened(inStance(0.1, 0.5, 0.3), expected);
        QCOMPARE(bodyShift(seen, expected, Side::Right, Vector3d::UnitX()), 0.0);
    }

    /// On whole performances: too little weight in stances that are wide and turned.
    void tooLittleWeightIsSeenInAWideStance()
    {
        auto request = requestFor("split", "gentle");
        request.faults = {{"weight-short", 17}};
        const Performance p = performAs(request);
        const ClipReading clip = readExactly(p, "split", "gentle", 90);
        const MeasuredPhase& open = clip.phases.back();
        const Value& v = open.values[static_cast<std::size_t>(Measure::WeightLead)];
        QVERIFY(v.seen());
        VERIFY_NEAR(v.value, valueAt(p, p.phases().back(), Measure::WeightLead), 5);
    }

    /// A shift back while the form goes forward: the picture by itself shows too little of it.
    void aShiftBackIsReadInFull()
    {
        auto request = requestFor("sparrow-tail", "gentle");
        request.faults = {{"transfer-jerks", 25}};
        const Performance p = performAs(request);
        const ClipReading clip = readExactly(p, "sparrow-tail", "gentle", 105);
        BodyMotion flat = motionOf(clip);
        flat.unseenShift.clear();
        const PhaseCourses bySight(flat, clip.lengths);
        const auto events = floorEvents(p);
        constexpr auto evenness = static_cast<std::size_t>(PhaseMeasure::WeightEvenness);
        int jerks = 0, drawn = 0;
        for (std::size_t i = 0; i < clip.phases.size(); ++i) {
            const FoundPhase& found = clip.phases[i].phase;
            const auto& whole = clip.phases[i].whole;
            const double truth = wholeTruth(p, p.phases()[i], events)[evenness].value_or(0);
            if (whole.empty() || !whole[evenness].isGiven() || truth < 15) continue;
            ++jerks;
            const auto alone =
                bySight.measure({found.begin, found.time, found.lead, found.heading}, rightOf(found.heading));
            VERIFY_NEAR(whole[evenness].value, truth, 2);
            drawn += alone[evenness] < truth - 6;
        }
        QCOMPARE(jerks, 5);
        QCOMPARE(drawn, jerks);
    }

    void oneMeasureIsTheSameByItself()
    {
        const ClipReading clip = sectionFromTheSide();
        int seen = 0;
        for (std::size_t i = 10; i < clip.track.frames.size(); i += 40) {
            const std::vector<Value> all = clip.measureFrame(i);
            for (Measure m : {Measure::WeightLead, Measure::KneeLeadFlexion, Measure::StanceWidth}) {
                const Value& v = all[static_cast<std::size_t>(m)];
                const auto alone = clip.valueAt(i, m);
                QCOMPARE(alone.has_value(), v.seen());
                if (!alone) continue;
                VERIFY_NEAR(*alone, v.value, 1e-9);
                ++seen;
            }
        }
        QVERIFY(seen > 10);
    }

    void aCourseIsReadAsItsFramesAre()
    {
        const ClipReading clip = sectionFromTheSide();
        const FoundPhase& phase = clip.phases[3].phase;
        const MeasureCourse course = measureCourse(clip, Measure::KneeLeadFlexion, phase.begin, phase.time);
        QVERIFY(course.points.size() > 10);
        std::vector<double> off;
        for (const MeasureCourse::Point& point : course.points) {
            const std::size_t frame =
                clip.track.nearest(phase.begin + point.share * (phase.time - phase.begin));
            const Value v = clip.measureFrame(frame)[static_cast<std::size_t>(Measure::KneeLeadFlexion)];
            VERIFY_NEAR(point.value, v.value, 1e-9);
            off.push_back(std::abs(point.u - v.u) / v.u);
        }
        // Read at some and drawn straight between: it may only be off where the view's name changes.
        std::sort(off.begin(), off.end());
        VERIFY_NEAR(off[off.size() / 2], 0, 0.05);
        VERIFY_NEAR(off.back(), 0, 0.5);
    }
};

QTEST_APPLESS_MAIN(TestBodyShift)
#include "test_body_shift.moc"
