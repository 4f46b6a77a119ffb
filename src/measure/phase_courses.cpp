#include "measure/phase_courses.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/mass_model.h"
#include "measure/body_courses.h"
#include "measure/body_shift.h"
#include "measure/foot_pivot.h"
#include "measure/measure_value.h"
#include "measure/touch_downs.h"
#include "measure/travel.h"
#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace jl
{
namespace
{

using Eigen::Vector2d;
using Eigen::Vector3d;

/// Options of the measures of a phase as a whole.
/// Chosen on: the quick set; the spreads of weight and ends on the 460 clips of seed 20260.
struct PhaseCourseOptions {
    /// Peak speed below which hands do not travel. x0.5 and x2: none.
    MetresPerSecond handsTravel = 0.15;
    /// Peak below which the weight does not shift, %/s. x0.5 and x2: none.
    double shift = 10;
    /// Peak below which nothing turns, deg/s. x0.5 and x2: none.
    double turn = 8;
    /// Turn below which an order of turns is not given. x0.5 and x2: none.
    Degrees leastTurn = 8;
    /// Weight below which a leg has been left. x0.5 and x2: none.
    Percent gone = 12;
    /// From a half: while both legs carry. x0.5: err +2 %; x2: err +3 %, 2u -0.7.
    Percent onBoth = 5;
    /// Standard deviation of the course of the weight. x0.5 and x2: none.
    Percent weightSpread = 2.2;
    /// Standard deviation of the beginning and the end of a phase. x0.5: none; x2: u +1 %.
    Seconds endSpread = 0.08;
    /// By which both ends are moved to find how a value depends on them. x0.5 and x2: none.
    Seconds endsMoved = 0.3;
    /// After a touch-down, in which a step is loaded. x0.5 and x2: none.
    Seconds loading = 0.25;
    /// To either side of the key moment, in which the pose is held. x0.5: n -0.7 %; x2: none.
    Seconds holdHalf = 0.15;
    /// Chi square of two degrees of freedom at 95 %. A constant of statistics. x0.5 and x2: none.
    Ratio ellipse95 = 5.991;
    /// Of the frames of a phase. x0.5: none; x2: n -21 %.
    Share leastSeen = 0.8;
};
constexpr PhaseCourseOptions kOptions;

/// When a course that goes from one value to another over a step passes a value between, as a share of the
/// step.
double passing(double from, double to, double value)
{
    return from == to ? 0 : clampTo((value - from) / (to - from), 0, 1);
}

/// How long a course at even steps lies between two values.
double timeWithin(const std::vector<double>& course, double step, double low, double high)
{
    double time = 0;
    for (std::size_t i = 1; i < course.size(); ++i) {
        const double a = course[i - 1], b = course[i];
        if (a == b)
            time += a > low && a < high ? step : 0;
        else
            time += step * std::abs(passing(a, b, high) - passing(a, b, low));
    }
    return time;
}

template <class Where>
std::vector<double> speedOf(const Stretch& s, const Where& where, const std::optional<Vector3d>& hidden)
{
    std::vector<double> speed(s.size(), 0);
    for (std::size_t i = 0; i < s.size(); ++i) {
        const std::size_t a = i > 0 ? i - 1 : 0, b = std::min(i + 1, s.size() - 1);
        if (b == a) continue;
        Vector3d way = where(s.frame[b]) - where(s.frame[a]);
        if (hidden) way -= *hidden * hidden->dot(way);
        speed[i] = way.norm() / (static_cast<double>(b - a) * s.step);
    }
    return speed;
}

std::optional<double> areaOf(const std::vector<Vector2d>& points)
{
    if (points.size() < 3) return {};
    const Vector2d mean =
        std::accumulate(points.begin(), points.end(), Vector2d(0, 0)) / static_cast<double>(points.size());
    Eigen::Matrix2d covariance = Eigen::Matrix2d::Zero();
    for (const Vector2d& p : points)
        covariance += (p - mean) * (p - mean).transpose() / static_cast<double>(points.size() - 1);
    return std::numbers::pi * kOptions.ellipse95 * std::sqrt(std::max(0.0, covariance.determinant()));
}

/// Measures one phase; the values are gathered in `out`.
class PhaseMeasurer
{
public:
    PhaseMeasurer(const BodyMotion& motion, const BodyLengths& lengths, const FloorContact& contact,
                  const PhaseSpan& span, const Resting& resting, const std::optional<Vector3d>& hidden)
        : m_motion(motion), m_lengths(lengths), m_contact(contact), m_span(span), m_resting(resting),
          m_hidden(hidden), m_stretch(motion, span.begin, span.time),
          m_since(motion, span.since.value_or(span.begin), span.time)
    {
    }

    PhaseCourses::Values values()
    {
        out(PhaseMeasure::Duration) = m_span.time - m_span.begin;
        if (m_stretch.size() < 6 ||
            static_cast<double>(m_stretch.size()) < kOptions.leastSeen * static_cast<double>(m_stretch.asked))
            return m_out;
        readCourses();
        readSteps();
        readShiftOrder();
        if (m_span.onOneLeg) readTouchDowns();
        if (!m_hidden) readInSpace();
        return m_out;
    }

private:
    std::optional<double>& out(PhaseMeasure m) { return m_out.value[static_cast<std::size_t>(m)]; }
    double& spread(PhaseMeasure m) { return m_out.spread[static_cast<std::size_t>(m)]; }
    const BodyPoints& points(std::size_t frame) const { return m_motion.frames[frame]; }

    /// Share on the front leg as the centre of mass lies between the feet, %.
    double shareOf(const BodyPoints& body) const
    {
        return clampTo(measureValue(Measure::WeightLead, body, m_lengths, m_span.lead, m_span.heading), 0,
                       100);
    }
    double shareAt(std::size_t frame) const { return shareOf(points(frame)); }
    /// The same, where a foot in the air carries nothing.
    double loadOf(std::size_t frame, const BodyPoints& body) const
    {
        const bool lead = m_contact.standsAt(m_span.lead, frame),
                   rear = m_contact.standsAt(other(m_span.lead), frame);
        return lead == rear ? shareOf(body) : lead ? 100 : 0;
    }
    /// The body with its way along the line of sight, which is less steady than what the picture shows.
    BodyPoints withUnseen(std::size_t frame) const
    {
        const auto& shift = m_motion.unseenShift;
        return shift.empty() ? points(frame) : bodyMoved(points(frame), shift[frame]);
    }
    template <class Of>
    std::vector<double> course(const Of& of) const
    {
        std::vector<double> values;
        for (std::size_t i : m_stretch.frame)
            values.push_back(of(i));
        return values;
    }

    void readCourses()
    {
        const auto height =
            course([&](std::size_t i) { return hipHeight(points(i)) / m_lengths.standingHip; });
        out(PhaseMeasure::PelvisBob) = 100 * rangeOf(height);

        const double step = m_stretch.step;
        const auto weight = smoothed(course([&](std::size_t i) { return loadOf(i, withUnseen(i)); }), step);
        double most = weight[0], least = weight[0], back = 0, forth = 0;
        for (double w : weight) {
            most = std::max(most, w);
            least = std::min(least, w);
            back = std::max(back, most - w);
            forth = std::max(forth, w - least);
        }
        out(PhaseMeasure::WeightEvenness) = std::min(back, forth);
        const auto onBoth = [&](double off) {
            return timeWithin(weight, step, 50 - kOptions.onBoth + off, 50 + kOptions.onBoth + off);
        };
        const double both = onBoth(0);
        out(PhaseMeasure::WeightDoubleTime) = both;
        spread(PhaseMeasure::WeightDoubleTime) = std::max(std::abs(onBoth(kOptions.weightSpread) - both),
                                                          std::abs(onBoth(-kOptions.weightSpread) - both));

        const auto hand = [&](Landmark l) {
            return speedOf(
                m_stretch,
                [&](std::size_t i) {
                    return Vector3d(points(i)[index(l)] - 0.5 * (points(i)[index(Landmark::LeftShoulder)] +
                                                                 points(i)[index(Landmark::RightShoulder)]));
                },
                m_hidden);
        };
        m_hands = hand(Landmark::LeftWrist);
        const auto right = hand(Landmark::RightWrist);
        for (std::size_t i = 0; i < m_hands.size(); ++i)
            m_hands[i] = std::max(m_hands[i], right[i]);
        const auto pelvis = speedOf(
            m_stretch,
            [&](std::size_t i) {
                return Vector3d(0.5 *
                                (points(i)[index(Landmark::LeftHip)] + points(i)[index(Landmark::RightHip)]));
            },
            m_hidden);
        auto fastest = m_hands;
        for (std::size_t i = 0; i < fastest.size(); ++i)
            fastest[i] = std::max(fastest[i], pelvis[i]);
        readFlow(fastest, pelvis);

        // When the weight changes does not depend on how far it goes.
        auto load = course([&](std::size_t i) { return loadOf(i, points(i)); });
        keepShiftsOnly(load);
        readLag(changeOf(smoothed(std::move(load), step), step));
    }

    /// Leaves out what a foot carried when it left the floor, or carries at once when it touches: that is no
    /// shift.
    void keepShiftsOnly(std::vector<double>& load) const
    {
        double jumps = 0, before = load[0];
        for (std::size_t i = 1; i < load.size(); ++i) {
            const double now = load[i];
            if (!carryAlike(m_stretch.frame[i - 1], m_stretch.frame[i])) jumps += now - before;
            before = now;
            load[i] = now - jumps;
        }
    }
    bool carryAlike(std::size_t a, std::size_t b) const
    {
        return m_contact.standsAt(Side::Left, a) == m_contact.standsAt(Side::Left, b) &&
               m_contact.standsAt(Side::Right, a) == m_contact.standsAt(Side::Right, b);
    }

    /// A small last shift passes for the arrival or does not, as a tenth of the peak happens to lie: by how
    /// much the lag depends on that share is how far it is known.
    void readLag(const std::vector<double>& shifting)
    {
        const auto arrivals = [&](double share) {
            return std::pair(travelOf(m_hands, m_stretch.time, m_resting.speed, share),
                             travelOf(shifting, m_stretch.time, 0, share));
        };
        const auto [hands, shift] = arrivals(kTenth);
        if (hands.peak <= kOptions.handsTravel || (shift.peak <= kOptions.shift && !m_span.meetsFoot)) return;
        const auto [handsSoon, shiftSoon] = arrivals(2 * kTenth);
        const auto [handsLate, shiftLate] = arrivals(kTenth / 2);
        const double handsSpread = handsLate.arrival - handsSoon.arrival;
        if (m_span.meetsFoot) {
            const auto touch = lastTouch();
            if (!touch) return; // a light touch is easily missed
            out(PhaseMeasure::HandFootLag) = hands.arrival - *touch;
            spread(PhaseMeasure::HandFootLag) = 0.5 * handsSpread;
            return;
        }
        out(PhaseMeasure::HandFootLag) = hands.arrival - shift.arrival;
        spread(PhaseMeasure::HandFootLag) =
            0.5 * std::hypot(handsSpread, shiftLate.arrival - shiftSoon.arrival);
    }

    /// When the leading foot touches last; none where it does not.
    std::optional<double> lastTouch() const
    {
        std::optional<double> time;
        for (const FootEvent& e : m_contact.footEvents)
            if (!e.lift && e.side == m_span.lead && e.time > m_span.begin && e.time <= m_span.time)
                time = e.time;
        return time;
    }

    void readFlow(const std::vector<double>& fastest, const std::vector<double>& pelvis)
    {
        const double step = m_stretch.step;
        const Pauses pauses = pausesOf(fastest, step, m_resting);
        out(PhaseMeasure::FlowPauses) = pauses.count;
        spread(PhaseMeasure::FlowPauses) = pauses.spread;
        const std::vector<Rest> rests = m_resting.restsOf(fastest, step);
        const auto moved = withoutLongRests(pelvis, rests, step);
        if (moved.empty()) return;
        out(PhaseMeasure::FlowSmoothness) =
            std::min(smoothnessOf(withoutLongRests(m_hands, rests, step), step), smoothnessOf(moved, step));
    }

    void readSteps()
    {
        double oneLeg = 0;
        for (std::size_t i : m_stretch.frame)
            if (m_contact.standsAt(Side::Left, i) != m_contact.standsAt(Side::Right, i))
                oneLeg += m_stretch.step;
        out(PhaseMeasure::BalanceHold) = oneLeg;
        for (const FootEvent& m : m_contact.footEvents) {
            if (m.time < m_span.begin || m.time > m_span.time) continue;
            if (m.lift && !m_lift) readLift(m);
            if (!m.lift && !out(PhaseMeasure::StepWeightAtContact)) readTouch(m);
        }
    }

    std::size_t nearest(double time) const
    {
        const auto at = std::lower_bound(m_stretch.time.begin(), m_stretch.time.end(), time);
        return static_cast<std::size_t>(
            std::min<std::ptrdiff_t>(at - m_stretch.time.begin(), std::ssize(m_stretch.time) - 1));
    }

    void readLift(const FootEvent& lift)
    {
        m_lift = lift.time;
        out(PhaseMeasure::OrderShiftStep) = shiftAfter(lift, kOptions.gone);
        spread(PhaseMeasure::OrderShiftStep) =
            0.5 * (shiftAfter(lift, kOptions.gone - kOptions.weightSpread) -
                   shiftAfter(lift, kOptions.gone + kOptions.weightSpread));
    }

    /// How long a foot in the air, or the leg it belongs to, still carries more than so many per cent, s.
    double shiftAfter(const FootEvent& lift, double gone) const
    {
        const auto left = [&](std::size_t k) {
            const double share = shareAt(m_stretch.frame[k]);
            return lift.side == m_span.lead ? share : 100 - share;
        };
        std::size_t i = nearest(lift.time);
        while (i + 1 < m_stretch.size() && !m_contact.standsAt(lift.side, m_stretch.frame[i]) &&
               left(i) > gone)
            ++i;
        double until = m_stretch.time[i];
        if (i > 0 && left(i) <= gone)
            until = left(i - 1) > gone ? until - m_stretch.step * (1 - passing(left(i - 1), left(i), gone))
                                       : lift.time;
        return std::max(0.0, until - lift.time);
    }

    void readTouch(const FootEvent& touch)
    {
        const std::size_t i = nearest(touch.time);
        const auto carried = [&](std::size_t k) {
            const double share = shareAt(m_stretch.frame[k]);
            return touch.side == m_span.lead ? share : 100 - share;
        };
        out(PhaseMeasure::StepWeightAtContact) = carried(i);
        double most = 0;
        for (std::size_t k = i; k < m_stretch.size() && m_stretch.time[k] <= touch.time + kOptions.loading;
             ++k)
            most = std::max(most, carried(k));
        out(PhaseMeasure::StepWeightAfter) = most;
        out(PhaseMeasure::StepHeelToFlat) = touch.flatAt - touch.time;
        const auto height =
            smoothed(course([&](std::size_t k) { return hipHeight(points(k)); }), m_stretch.step);
        const std::size_t a = i > 0 ? i - 1 : 0;
        if (i > a) out(PhaseMeasure::StepDrop) = (height[a] - height[i]) / m_stretch.step;
    }

    /// How far the front knee travels over the floor, m.
    double kneeTravel() const
    {
        Eigen::AlignedBox2d over;
        for (std::size_t i : m_stretch.frame)
            over.extend(points(i)[index(sided(Landmark::LeftKnee, m_span.lead))].head<2>());
        return over.isEmpty() ? 0 : over.diagonal().norm();
    }

    void readInSpace()
    {
        const double step = m_stretch.step;
        const auto heading = pelvisHeading(m_motion, m_stretch);
        out(PhaseMeasure::PelvisTurn) = heading.back() - heading.front();
        const auto speed = changeOf(heading, step);
        const Travel turn = travelOf(speed, m_stretch.time),
                     hands = travelOf(m_hands, m_stretch.time, m_resting.speed);
        if (turn.peak > kOptions.turn && hands.peak > kOptions.handsTravel)
            out(PhaseMeasure::TurnLeads) = hands.start - turn.start;
        if (rangeOf(heading) > kOptions.leastTurn && !m_mass.empty())
            readShiftInto(speed, PhaseMeasure::OrderShiftTurn);
        if (m_lift) readTurnIntoStep();
        readPivot(Side::Left, PhaseMeasure::LeftPivot, PhaseMeasure::LeftPivotOn);
        readPivot(Side::Right, PhaseMeasure::RightPivot, PhaseMeasure::RightPivotOn);

        out(PhaseMeasure::KneeLeadDrift) = kneeTravel();

        std::vector<Vector2d> held;
        for (std::size_t i = 0; i < m_motion.frames.size(); ++i)
            if (std::abs(m_motion.time[i] - m_span.time) <= kOptions.holdHalf &&
                std::isfinite(hipHeight(points(i))))
                held.emplace_back(centreOfMass(points(i)).head<2>());
        out(PhaseMeasure::BalanceSway) = areaOf(held);
    }

    /// The turn may have begun in the phase before, too.
    void readTurnIntoStep()
    {
        const auto heading = pelvisHeading(m_motion, m_since);
        if (rangeOf(heading) < kOptions.leastTurn) return;
        const auto speed = changeOf(heading, m_since.step);
        readOverlap(PhaseMeasure::OrderTurnStep,
                    [&](double share) { return overlapOf(speed, m_since.time, *m_lift, share); });
    }

    void readPivot(Side side, PhaseMeasure amount, PhaseMeasure about)
    {
        for (std::size_t i : m_stretch.frame)
            if (!m_contact.standsAt(side, i)) return;
        const auto place = [&](std::size_t i) {
            return FootPlace{points(i)[index(sided(Landmark::LeftHeel, side))].head<2>(),
                             points(i)[index(sided(Landmark::LeftToe, side))].head<2>()};
        };
        const FootPivot pivot = footPivot(place(m_stretch.frame.front()), place(m_stretch.frame.back()));
        out(amount) = pivot.amount;
        out(about) = pivot.about;
        spread(about) = pivot.aboutSpread;
    }

    void readTouchDowns()
    {
        double count = 0, variance = 0;
        for (Side side : {Side::Left, Side::Right}) {
            const TouchDowns touches = touchDownsOf(
                course([&](std::size_t i) { return m_contact.height[static_cast<std::size_t>(side)][i]; }));
            count += touches.count;
            variance += touches.spread * touches.spread;
        }
        out(PhaseMeasure::BalanceTouches) = count;
        spread(PhaseMeasure::BalanceTouches) = std::sqrt(variance);
    }

    /// The shift may have begun in the phase before; what it should come before begins in this one.
    void readShiftOrder()
    {
        m_mass = massSpeed(m_motion, m_since, m_hidden);
        if (m_mass.empty() || m_lift) return; // stepping out sinks and carries the leg's mass along
        const auto sink = sinkSpeed(m_motion, m_stretch);
        if (!sink.empty()) readShiftInto(sink, PhaseMeasure::OrderShiftSink);
    }

    void readShiftInto(const std::vector<double>& second, PhaseMeasure order)
    {
        readOverlap(order, [&](double share) {
            return overlapOf(m_mass, m_since.time, travelOf(second, m_stretch.time, 0, share).start, share);
        });
    }

    /// How much an overlap depends on the share of the peak that counts as rest is how far it is known.
    template <class Overlap>
    void readOverlap(PhaseMeasure order, const Overlap& overlap)
    {
        const auto usual = overlap(kTenth), soon = overlap(2 * kTenth), late = overlap(kTenth / 2);
        if (!usual) return;
        out(order) = usual;
        spread(order) = 0.5 * std::abs(late.value_or(*usual) - soon.value_or(*usual));
    }

    const BodyMotion& m_motion;
    const BodyLengths& m_lengths;
    const FloorContact& m_contact;
    const PhaseSpan& m_span;
    const Resting& m_resting;
    const std::optional<Vector3d>& m_hidden;
    Stretch m_stretch; ///< the phase
    Stretch m_since;   ///< the phase and the one before
    std::vector<double> m_hands;
    std::vector<double> m_mass; ///< speed of the centre of mass, along m_since
    std::optional<double> m_lift;
    PhaseCourses::Values m_out;
};

} // namespace

PhaseCourses::PhaseCourses(BodyMotion motion, const BodyLengths& lengths, const ExpectedSteps& expected)
    : m_motion(std::move(motion)), m_lengths(lengths), m_contact(floorContact(m_motion, expected)),
      m_resting(Resting::in(m_motion))
{
}

PhaseCourses::Values PhaseCourses::measure(const PhaseSpan& span,
                                           const std::optional<Eigen::Vector3d>& hidden) const
{
    const auto valuesOf = [&](const PhaseSpan& s) {
        return PhaseMeasurer(m_motion, m_lengths, m_contact, s, m_resting, hidden).values();
    };
    Values values = valuesOf(span);
    for (double PhaseSpan::*end : {&PhaseSpan::begin, &PhaseSpan::time}) {
        std::array<double, kPhaseMeasureCount> most{};
        for (const double by : {-kOptions.endsMoved, kOptions.endsMoved}) {
            PhaseSpan moved = span;
            moved.*end += by;
            const Values otherwise = valuesOf(moved);
            for (std::size_t m = 0; m < kPhaseMeasureCount; ++m)
                if (values[m] && otherwise[m])
                    most[m] = std::max(most[m], std::abs(*otherwise[m] - *values[m]));
        }
        for (std::size_t m = 0; m < kPhaseMeasureCount; ++m)
            values.spread[m] =
                std::hypot(values.spread[m], most[m] * kOptions.endSpread / kOptions.endsMoved);
    }
    return values;
}

} // namespace jl
