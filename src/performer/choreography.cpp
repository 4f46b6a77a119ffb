#include "performer/choreography.h"
#include "base/angles.h"
#include "performer/figure.h"
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

using Json = nlohmann::json;

/// Reads one move after the other; what a move leaves out stays as it was.
class MoveReader
{
public:
    MoveReader(const Bands& bow, Side lead, const BodyShape& body) : m_bow(bow), m_lead(lead), m_body(body) {}

    Moment read(const Json& j, double heading)
    {
        Moment m;
        m.heading = heading;
        m.seconds = j.at("seconds");
        m.hold = j.value("hold", 0.0);
        if (const auto t = j.find("timing"); t != j.end()) {
            window(*t, "feet", m.feet);
            window(*t, "weight", m.weight);
            window(*t, "pelvis", m.pelvis);
            window(*t, "hands", m.hands);
        }
        const Side rear = other(m_lead);
        const double toLead = m_lead == Side::Right ? 1 : -1;
        if (j.contains("rear")) foot(j.at("rear"), m_rear, m_front);
        if (j.contains("lead")) foot(j.at("lead"), m_front, m_rear);
        m_pose.foot[m_lead] = placed(m_front, m_lead, heading, toLead);
        m_pose.foot[rear] = placed(m_rear, rear, heading, toLead);
        if (j.contains("weight")) m_weight = orBow(j.at("weight"), Measure::WeightLead) / 100;
        m_pose.weightLeft = m_lead == Side::Left ? m_weight : 1 - m_weight;
        if (j.contains("height")) m_pose.pelvisHeight = j.at("height").get<double>() / 100;
        if (j.contains("pelvis")) m_pelvis = j.at("pelvis");
        if (j.contains("thorax")) m_thorax = j.at("thorax");
        if (j.contains("gaze")) m_gaze = j.at("gaze");
        m_pose.pelvisHeading = heading + toLead * m_pelvis;
        m_pose.thoraxHeading = heading + toLead * m_thorax;
        m_pose.headHeading = heading + toLead * m_gaze;
        if (j.contains("drop")) m_pose.headPitch = j.at("drop");
        m_pose.leanDirection = heading;
        if (j.contains("lean")) m_pose.leanForward = orBow(j.at("lean"), Measure::TrunkLeanForward);
        if (j.contains("knees")) {
            m_pose.kneeTrack[m_lead] = j.at("knees").at(0).get<double>() * m_body.scale();
            m_pose.kneeTrack[rear] = j.at("knees").at(1).get<double>() * m_body.scale();
        }
        if (const auto hands = j.find("hands"); hands != j.end()) {
            if (hands->contains("lead")) hand(hands->at("lead"), m_pose.hand[m_lead]);
            if (hands->contains("rear")) hand(hands->at("rear"), m_pose.hand[rear]);
        }
        m.pose = m_pose;
        return m;
    }

private:
    /// A foot as the file gives it: heel along and across (foot lengths, across positive to the lead side).
    struct Print {
        double along = 0, across = 0, turn = 0, lift = 0, pitch = 0;
    };

    double orBow(const Json& value, Measure m) const
    {
        if (!value.is_string()) return value.get<double>();
        const Band band = m_bow.at(m);
        // A class's stance, not a lunge for show: the shorter part of what the school allows.
        return m == Measure::StanceLength ? mix(band.low, band.high, 0.22) : band.centre();
    }

    static void window(const Json& timing, const char* name, Window& w)
    {
        if (const auto t = timing.find(name); t != timing.end()) w = {t->at(0), t->at(1)};
    }

    /// "bow" means the school's stance from the other foot; "beside" means parallel to the other foot.
    void foot(const Json& j, Print& print, const Print& fixed) const
    {
        const double foot = m_body.footLength();
        const auto coordinate = [&](const char* name, double& value, double from, Measure bow, double apart) {
            const auto v = j.find(name);
            if (v == j.end()) return;
            value = !v->is_string()  ? v->get<double>()
                    : *v == "beside" ? from + apart
                                     : from + orBow(*v, bow) / foot;
        };
        coordinate("along", print.along, fixed.along, Measure::StanceLength, 0);
        coordinate("across", print.across, fixed.across, Measure::StanceWidth,
                   &print == &m_rear ? -1.04 : 1.04);
        print.turn = j.value("turn", print.turn);
        print.lift = j.value("lift", 0.0);
        print.pitch = j.value("pitch", 0.0);
    }

    FootPose placed(const Print& p, Side side, double heading, double toLead) const
    {
        const double foot = m_body.footLength();
        FootPose out;
        out.heel =
            (headingForward(heading) * p.along * foot + headingRight(heading) * toLead * p.across * foot)
                .head<2>();
        out.heading = heading + (side == Side::Right ? p.turn : -p.turn);
        out.lift = p.lift * m_body.scale();
        out.pitch = p.pitch;
        return out;
    }

    static void hand(const Json& j, HandPose& h)
    {
        if (j.contains("out")) h.place.x() = j.at("out");
        if (j.contains("front")) h.place.y() = j.at("front");
        if (j.contains("height")) h.place.z() = j.at("height");
        if (j.contains("elbow")) h.elbowOut = j.at("elbow");
        if (const auto p = j.find("palm"); p != j.end())
            h.palm = Eigen::Vector3d(p->at(0).get<double>(), p->at(1).get<double>(), p->at(2).get<double>());
    }

    const Bands& m_bow;
    Side m_lead;
    const BodyShape& m_body;
    Pose m_pose;
    Print m_front, m_rear;
    double m_weight = 0.5, m_pelvis = 0, m_thorax = 0, m_gaze = 0;
};

} // namespace

Result<std::vector<Moment>> choreograph(const Standards& standards, const FormStandard& form,
                                        const SchoolStandard& school, Side lead, const BodyShape& body)
{
    PhaseStandard bowPhase;
    bowPhase.stance = "bow";
    const Bands bow = standards.bandsFor(bowPhase, school, body.footLength());
    MoveReader reader(bow, lead, body);
    std::vector<Moment> moments;
    for (const FormStep& step : form.steps) {
        const PostureStandard* posture = standards.posture(step.posture);
        for (const PhaseStandard& phase : posture->phases) {
            try {
                const Json moves = Json::parse(phase.moves);
                for (const Json& move : moves) {
                    Moment m = reader.read(move, step.heading);
                    m.posture = posture->id;
                    m.phase = phase.id;
                    m.stance = phase.stance;
                    moments.push_back(std::move(m));
                }
            } catch (const std::exception& e) { // a missing or misshapen value, or a school without bow bands
                return Error{Error::Kind::BadInput,
                             "the moves of phase \"" + phase.id + "\" cannot be read: " + e.what(),
                             "postures/" + posture->id + ".json", "Take the shipped file again."};
            }
            if (!moments.empty()) moments.back().key = true;
        }
    }
    return moments;
}

} // namespace jl
