#include "performer/faults.h"
#include "base/angles.h"
#include "performer/figure.h"
#include "performer/truth.h"
#include <algorithm>
#include <cmath>

namespace jl
{

const std::vector<FaultKind>& faultKinds()
{
    static const std::vector<FaultKind> kinds{
        {"knee-past-toe", Measure::KneeLeadPastToe, "m beyond the tip of the toe", 0.06, 0.12},
        {"knee-caves-lead", Measure::KneeLeadTrack, "m inside the foot's axis", 0.06, 0.12},
        {"stance-short", Measure::StanceLength, "m below the school's shortest stance", 0.10, 0.30},
        {"one-line", Measure::StanceWidth, "m below the school's narrowest stance", 0.08, 0.20},
        {"lean-forward", Measure::TrunkLeanForward, "deg beyond the school's furthest lean", 8, 30},
        {"weight-short", Measure::WeightLead, "% below the school's least weight", 12, 40},
    };
    return kinds;
}

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
        }
        char* end = nullptr;
        request.size = std::strtod(size.c_str(), &end);
        const std::string unit = end;
        if (end == size.c_str() ||
            (!unit.empty() && unit != "cm" && unit != "m" && unit != "deg" && unit != "%"))
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

struct Setting {
    const BodyShape& body;
    const Bands& bow;
};

double leadMeasure(Measure m, const Moment& moment, const Setting& s)
{
    return trueMeasure(m, poseFigure(s.body, moment.pose), moment.lead, moment.heading);
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
void bringKneePastToe(Moment& m, double size, const Setting& s)
{
    const double more = std::min(0.05, size * 0.6);
    m.pose.weightLeft += m.lead == Side::Left ? more : -more;
    double low = 0.50, high = m.pose.pelvisHeight;
    for (int i = 0; i < 30; ++i) {
        m.pose.pelvisHeight = 0.5 * (low + high);
        (leadMeasure(Measure::KneeLeadPastToe, m, s) < size ? high : low) = m.pose.pelvisHeight;
    }
}

void caveKnee(Moment& m, double size, const Setting& s)
{
    // The knee's track is set about the ankle; the foot's axis runs through it, so one correction is exact.
    m.pose.kneeTrack[m.lead] = -size;
    m.pose.kneeTrack[m.lead] -= leadMeasure(Measure::KneeLeadTrack, m, s) + size;
}

} // namespace

Result<std::vector<PerformedFault>> applyFaults(std::vector<Moment>& moments,
                                                const std::vector<FaultRequest>& faults,
                                                const BodyShape& body, const Bands& bow)
{
    const Setting s{body, bow};
    std::vector<PerformedFault> done;
    // Steps come before what is done in them, whatever the order of the request.
    std::vector<FaultRequest> ordered = faults;
    std::stable_partition(ordered.begin(), ordered.end(),
                          [](const FaultRequest& f) { return f.id == "stance-short" || f.id == "one-line"; });
    for (const FaultRequest& fault : ordered) {
        std::size_t lastStep = moments.size();
        const std::size_t before = done.size();
        for (std::size_t i = 0; i < moments.size(); ++i) {
            Moment& m = moments[i];
            if (m.stance != "bow" || (!fault.posture.empty() && m.posture != fault.posture)) continue;
            if (fault.id == "stance-short" || fault.id == "one-line") {
                const std::size_t step = setDown(moments, i);
                if (step != lastStep) {
                    const bool shortens = fault.id == "stance-short";
                    const Measure measure = shortens ? Measure::StanceLength : Measure::StanceWidth;
                    const double change = bow.at(measure).low - fault.size - leadMeasure(measure, m, s);
                    moveFrontFoot(moments, step, shortens ? change : 0, shortens ? 0 : change);
                    lastStep = step;
                }
            } else if (fault.id == "knee-past-toe") {
                bringKneePastToe(m, fault.size, s);
            } else if (fault.id == "knee-caves-lead") {
                caveKnee(m, fault.size, s);
            } else if (fault.id == "lean-forward") {
                m.pose.leanForward = bow.at(Measure::TrunkLeanForward).high + fault.size;
            } else if (fault.id == "weight-short") {
                const double share = (bow.at(Measure::WeightLead).low - fault.size) / 100;
                m.pose.weightLeft = m.lead == Side::Left ? share : 1 - share;
            }
            if (m.key) done.push_back({fault.id, fault.size, m.posture, m.phase});
        }
        if (done.size() == before)
            return Error{Error::Kind::WrongUse,
                         "the fault " + fault.id + " cannot be shown in \"" + fault.posture + "\"", "--fault",
                         "Choose a posture with a forward stance: ward-off, roll-back, press or push."};
    }
    return done;
}

} // namespace jl
