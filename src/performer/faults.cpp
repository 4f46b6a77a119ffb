#include "base/angles.h"
#include "performer/fault_table.h"
#include "performer/figure.h"
#include "performer/move_faults.h"
#include "performer/performance.h"
#include "performer/sequence_faults.h"
#include "performer/truth.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace jl
{

Result<FaultRequest> parseFault(const std::string& text)
{
    const auto wrong = [&](const std::string& what, const std::string& remedy) {
        return Error{Error::Kind::WrongUse, what, "--fault " + text, remedy};
    };
    const auto equals = text.find('=');
    FaultRequest request;
    request.id = text.substr(0, equals);
    const auto kind = std::find_if(faultKinds().begin(), faultKinds().end(),
                                   [&](const FaultKind& k) { return k.id == request.id; });
    if (kind == faultKinds().end()) {
        std::vector<std::string> known;
        for (const FaultKind& k : faultKinds())
            known.emplace_back(k.id);
        return unknownId("fault", request.id, known);
    }
    request.size = kind->usual;
    if (equals != std::string::npos) {
        std::string size = text.substr(equals + 1);
        if (const auto at = size.find('@'); at != std::string::npos) {
            request.posture = size.substr(at + 1);
            size.resize(at);
            if (const auto slash = request.posture.find('/'); slash != std::string::npos) {
                request.phase = request.posture.substr(slash + 1);
                request.posture.resize(slash);
            }
        }
        char* end = nullptr;
        request.size = std::strtod(size.c_str(), &end);
        const std::string unit = end;
        if (end == size.c_str() ||
            (!unit.empty() && unit != "cm" && unit != "m" && unit != "deg" && unit != "%" && unit != "s"))
            return wrong("the size is not a number",
                         "Write it like knee-past-toe=0.08 or knee-past-toe=8cm.");
        if (unit == "cm") request.size /= 100;
    }
    if (!(request.size > 0) || request.size > kind->largest) {
        char limit[96];
        std::snprintf(limit, sizeof limit, "Give a size above 0 and up to %g (%s).", kind->largest,
                      std::string(kind->meaning).c_str());
        return wrong("this size cannot be performed", limit);
    }
    return request;
}

namespace
{

double leadMeasure(Measure m, const Moment& moment, const BodyShape& body)
{
    return trueMeasure(m, poseFigure(body, moment.pose), moment.lead, moment.heading);
}

/// Moves the front heel along and across the posture's direction where it is set down at a moment. Whatever
/// is placed from that foot later goes with it.
void moveFrontFoot(std::vector<Moment>& moments, std::size_t from, double along, double across)
{
    const Side lead = moments[from].lead;
    const double toLead = lead == Side::Right ? 1 : -1;
    Pair<std::vector<int>> place;
    for (Side side : {Side::Left, Side::Right})
        place[side] = footPlaces(moments, side);
    Pair<Eigen::Vector2d> shift;
    shift[other(lead)] = Eigen::Vector2d::Zero();
    shift[lead] = (headingForward(moments[from].heading) * along +
                   headingRight(moments[from].heading) * toLead * across)
                      .head<2>();
    for (std::size_t i = from; i < moments.size(); ++i) {
        for (Side side : {Side::Left, Side::Right}) {
            if (i > from && place[side][i] != place[side][i - 1]) shift[side] = shift[other(side)];
            moments[i].pose.foot[side].heel += shift[side];
        }
    }
}

/// Where the front foot of the stance at a moment was first set down.
std::size_t setDown(const std::vector<Moment>& moments, std::size_t at)
{
    const std::vector<int> place = footPlaces(moments, moments[at].lead);
    std::size_t i = at;
    while (i > 0 && place[i - 1] == place[at])
        --i;
    return i;
}

/// Lowers the pelvis (and lets the weight go a little further) until the knee's plumb falls at the wished
/// place.
void bringKneePastToe(Moment& m, double size, const BodyShape& body)
{
    const double more = std::min(0.05, size * 0.6);
    m.pose.weightLeft += m.lead == Side::Left ? more : -more;
    double low = 0.50, high = m.pose.pelvisHeight;
    for (int i = 0; i < 30; ++i) {
        m.pose.pelvisHeight = 0.5 * (low + high);
        (leadMeasure(Measure::KneeLeadPastToe, m, body) < size ? high : low) = m.pose.pelvisHeight;
    }
}

void caveKnee(Moment& m, double size, const BodyShape& body)
{
    // The knee's track is set about the ankle; the foot's axis runs through it, so one correction is exact.
    m.pose.kneeTrack[m.lead] = -size;
    m.pose.kneeTrack[m.lead] -= leadMeasure(Measure::KneeLeadTrack, m, body) + size;
}

void turnWeight(Moment& m, double towardsLead)
{
    m.pose.weightLeft =
        clampTo(m.pose.weightLeft + (m.lead == Side::Left ? towardsLead : -towardsLead), 0, 1);
}

/// The pose with a knob turned by x.
Moment turned(Moment m, Knob knob, double x)
{
    const Side lead = m.lead, rear = other(lead);
    const double toLead = lead == Side::Right ? 1 : -1;
    Pose& p = m.pose;
    switch (knob) {
    case Knob::LeadKnee:
        p.kneeTrack[lead] -= x;
        break;
    case Knob::RearKnee:
        p.kneeTrack[rear] -= x;
        break;
    case Knob::Rise:
        p.pelvisHeight += x;
        p.legReach = std::min(0.9999, p.legReach + 0.2 * x); // straight enough to be locked
        break;
    case Knob::LeadFootOut:
        p.foot[lead].heading += toLead * x;
        break;
    case Knob::RearFootOut:
        p.foot[rear].heading -= toLead * x;
        break;
    case Knob::LeadToesUp:
        p.foot[lead].pitch += x;
        break;
    case Knob::RearHeelUp:
        p.foot[rear].pitch -= x;
        break;
    case Knob::LeadWeight:
        turnWeight(m, x);
        break;
    case Knob::RearWeight:
        turnWeight(m, -x);
        break;
    case Knob::LeanForward:
        p.leanForward += x;
        break;
    case Knob::LeanBack:
        p.leanForward -= x;
        break;
    case Knob::LeanSide:
        p.leanSide += x;
        break;
    case Knob::PelvisToRear:
        p.pelvisHeading -= toLead * x;
        p.thoraxHeading -= toLead * 0.6 * x; // the shoulders follow a good part of the way
        break;
    case Knob::PelvisAhead:
        p.pelvisHeading += toLead * x;
        break;
    case Knob::PelvisTilt:
        p.pelvisTilt += toLead * x;
        break;
    case Knob::ShoulderTilt:
        p.shoulderTilt += x;
        break;
    case Knob::Shrug:
        p.shrug += x;
        break;
    case Knob::Round:
        p.round += x;
        break;
    case Knob::LookDown:
        p.headPitch += x;
        break;
    case Knob::HeadTilt:
        p.headTilt += x;
        break;
    case Knob::LeadElbowUp:
        p.hand[lead].elbowOut += x;
        break;
    case Knob::LeadHandFront:
        p.hand[lead].place.y() += x;
        break;
    case Knob::LeadHandBack:
        p.hand[lead].place.y() -= x;
        break;
    case Knob::LeadHandOut:
        p.hand[lead].place.x() += x;
        break;
    case Knob::LeadHandUp:
        p.hand[lead].place.z() += x;
        break;
    case Knob::RearElbowUp:
        p.hand[rear].elbowOut += x;
        break;
    case Knob::RearHandFront:
        p.hand[rear].place.y() += x;
        break;
    case Knob::RearHandBack:
        p.hand[rear].place.y() -= x;
        break;
    case Knob::RearHandOut:
        p.hand[rear].place.x() += x;
        break;
    case Knob::RearHandUp:
        p.hand[rear].place.z() += x;
        break;
    case Knob::HandsOut:
        for (Side s : {lead, rear})
            p.hand[s].place.x() += x;
        break;
    case Knob::LeadFootUp:
        p.foot[lead].lift += x;
        break;
    case Knob::Sway:
        p.sway = (rear == Side::Right ? x : -x);
        break;
    }
    return m;
}

/// Some measures are signed to the right; a fault's measure is taken so that a larger value is more of it.
double signedFor(const PoseFault& fault, const Moment& m, double value)
{
    const bool towardsRight =
        fault.kind.measure == Measure::PelvisSquare || fault.kind.measure == Measure::WaistTwist ||
        fault.kind.measure == Measure::ArmOverLeg || fault.kind.measure == Measure::PelvisLevel;
    if (!towardsRight) return value;
    const double toLead = m.lead == Side::Right ? 1 : -1;
    const bool towardsRear = fault.knob == Knob::PelvisToRear;
    // Turned to the rear side counts as more of "not square"; the shoulders stay behind the pelvis otherwise.
    if (towardsRear || fault.kind.measure == Measure::WaistTwist) return -toLead * value;
    return fault.knob == Knob::PelvisAhead ? -toLead * value : toLead * value;
}

/// Turns the knob until the measure has the wished value. False when it does not go that far.
bool bringAbout(Moment& m, const PoseFault& fault, double size, const BodyShape& body, const Bands& bands)
{
    const Measure measure = *fault.kind.measure;
    const auto value = [&](double x) {
        return signedFor(fault, m, leadMeasure(measure, turned(m, fault.knob, x), body));
    };
    const double own = value(0);
    double limit = fault.limit.value_or(own);
    if (const auto band = bands.find(measure); band != bands.end() && fault.bySchool)
        limit = fault.above ? band->second.high : band->second.low;
    const double target = fault.above ? limit + size : limit - size;
    const auto short_ = [&](double v) { return fault.above ? v < target : v > target; };
    if (!short_(own)) return true;
    if (short_(value(fault.range))) return false;
    double low = 0, high = fault.range;
    for (int i = 0; i < 40; ++i) {
        const double middle = 0.5 * (low + high);
        (short_(value(middle)) ? low : high) = middle;
    }
    m = turned(m, fault.knob, high);
    return true;
}

bool isAsked(const FaultRequest& fault, const Moment& m)
{
    return (fault.posture.empty() || m.posture == fault.posture) &&
           (fault.phase.empty() || m.phase == fault.phase);
}

constexpr double kMostShare = 0.92; ///< of the weight; beyond it the body would fall over the front foot

/// A step that is too short, long, narrow or wide.
std::optional<std::pair<Measure, double>> stepOf(const std::string& id)
{
    if (id == "stance-short") return std::pair(Measure::StanceLength, -1.0);
    if (id == "stance-long") return std::pair(Measure::StanceLength, 1.0);
    if (id == "one-line") return std::pair(Measure::StanceWidth, -1.0);
    if (id == "stance-wide") return std::pair(Measure::StanceWidth, 1.0);
    return {};
}

void misplaceStep(std::vector<Moment>& moments, std::size_t i, Measure measure, double sign, double size,
                  const BodyShape& body, const Bands& bands)
{
    const Band band = bands.at(measure);
    const double wished = sign < 0 ? band.low - size : band.high + size;
    const double own = leadMeasure(measure, moments[i], body), change = wished - own;
    const bool along = measure == Measure::StanceLength;
    const std::size_t from = setDown(moments, i);
    const std::vector<int> place = footPlaces(moments, moments[i].lead);
    moveFrontFoot(moments, from, along ? change : 0, along ? 0 : change);
    if (!along || sign > 0) return;
    // Whoever steps short still shifts as far as ever: the front leg gets more, and its knee runs ahead.
    for (std::size_t k = from; k < moments.size() && place[k] == place[from]; ++k) {
        if (moments[k].stance != StanceKind::Bow) continue;
        const double share =
            moments[k].lead == Side::Left ? moments[k].pose.weightLeft : 1 - moments[k].pose.weightLeft;
        turnWeight(moments[k], std::min(kMostShare, share * own / wished) - share);
    }
}

} // namespace

Result<std::vector<PerformedFault>> applyFaults(std::vector<Moment>& moments,
                                                const std::vector<FaultRequest>& faults,
                                                const BodyShape& body, const BandsOf& bands)
{
    std::vector<PerformedFault> done;
    // Steps come before what is done in them, and timing last, whatever the order of the request.
    std::vector<FaultRequest> ordered = faults;
    std::stable_sort(ordered.begin(), ordered.end(), [](const FaultRequest& a, const FaultRequest& b) {
        const auto rank = [](const FaultRequest& f) { return stepOf(f.id) ? 0 : isMoveFault(f.id) ? 2 : 1; };
        return rank(a) < rank(b);
    });
    for (const FaultRequest& fault : ordered) {
        if (isSequenceFault(fault.id)) continue;
        const auto pose = std::find_if(poseFaults().begin(), poseFaults().end(),
                                       [&](const PoseFault& f) { return f.kind.id == fault.id; });
        std::size_t lastStep = moments.size();
        const std::size_t before = done.size();
        for (std::size_t i = 0; i < moments.size(); ++i) {
            if (!isAsked(fault, moments[i])) continue;
            const bool forward = moments[i].stance == StanceKind::Bow;
            bool shown = false;
            if (const auto step = stepOf(fault.id)) {
                if (!forward) continue;
                const std::size_t set = setDown(moments, i);
                if (set != lastStep)
                    misplaceStep(moments, i, step->first, step->second, fault.size, body, bands(moments[i]));
                lastStep = set;
                shown = true;
            } else if (fault.id == "stands-wide" || fault.id == "stands-narrow") {
                const double sign = fault.id == "stands-wide" ? 1 : -1;
                shown = moments[i].stance == StanceKind::Parallel;
                if (!shown) continue;
                const std::size_t set = setDown(moments, i);
                if (set != lastStep) moveFrontFoot(moments, set, 0, sign * fault.size);
                lastStep = set;
            } else if (fault.id == "turn-of-foot-short") {
                shown = turnShort(moments, i, Side::Left, fault.size);
            } else if (fault.id == "turn-of-foot-short-right") {
                shown = turnShort(moments, i, Side::Right, fault.size);
            } else if (fault.id == "turns-on-ball") {
                shown = turnOnBall(moments, i, Side::Left);
            } else if (fault.id == "turns-on-ball-right") {
                shown = turnOnBall(moments, i, Side::Right);
            } else if (fault.id == "knee-past-toe") {
                if (forward) bringKneePastToe(moments[i], fault.size, body);
                shown = forward;
            } else if (fault.id == "knee-caves-lead") {
                if (forward) caveKnee(moments[i], fault.size, body);
                shown = forward;
            } else if (fault.id == "knee-drifts") {
                shown = driftKnee(moments, i, fault.size);
            } else if (pose != poseFaults().end()) {
                shown = pose->stances.contains(moments[i].stance) &&
                        bringAbout(moments[i], *pose, fault.size, body, bands(moments[i]));
                if (shown && fault.id == "wobble" && fault.size > kTouchesDown) touchDown(moments, i, body);
            } else {
                shown = spoilMove(moments, i, fault, body);
            }
            if (shown && moments[i].key)
                done.push_back({fault.id, fault.size, moments[i].posture, moments[i].phase});
        }
        if (done.size() == before)
            return Error{Error::Kind::WrongUse,
                         "the fault " + fault.id + " cannot be shown " +
                             (fault.posture.empty() ? "in this form" : "in \"" + fault.posture + "\""),
                         "--fault", "Choose a posture whose stance has it, or a smaller size."};
    }
    return done;
}

} // namespace jl
