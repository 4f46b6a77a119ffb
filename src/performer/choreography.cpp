#include "performer/choreography.h"
#include "base/angles.h"
#include "performer/figure.h"
#include <algorithm>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

using Json = nlohmann::json;
using Eigen::Vector2d;

constexpr double kFistCurl = 150, kHookCurl = 35, kHookDrop = 62; ///< deg
constexpr double kShortStepKnee = 90; ///< deg: a knee that bends no further than this takes short steps

/// Reads one move after the other; what a move leaves out stays as it was.
class MoveReader
{
public:
    MoveReader(const Standards& standards, const SchoolStandard& school, const BodyShape& body,
               const Manner& manner)
        : m_standards(standards), m_school(school), m_style(school.style), m_body(body), m_manner(manner)
    {
        for (Side s : {Side::Left, Side::Right})
            m_pose.foot[s].heel.x() = (s == Side::Left ? -0.5 : 0.5) * m_style.standing * body.footLength();
    }

    Moment read(const Json& j, Side lead, double heading)
    {
        m_lead = lead;
        m_heading = heading;
        Moment m;
        m.heading = heading;
        m.lead = lead;
        m.seconds = j.at("seconds");
        m.hold = j.value("hold", 0.0);
        if (m_manner.jump && m_body.kicks) m.jump = j.value("jump", 0.0) * m_body.scale();
        if (const auto t = j.find("timing"); t != j.end()) {
            window(*t, "feet", m.feet);
            window(*t, "weight", m.weight);
            window(*t, "pelvis", m.pelvis);
            window(*t, "hands", m.hands);
        }
        const Side rear = other(lead);
        for (Side s : {Side::Left, Side::Right})
            m_pose.foot[s].onBall = false;
        if (j.contains("rear")) foot(j.at("rear"), rear);
        if (j.contains("lead")) foot(j.at("lead"), lead);
        if (j.contains("weight")) {
            const double share = orStance(j.at("weight"), Measure::WeightLead) / 100;
            m_pose.weightLeft = lead == Side::Left ? share : 1 - share;
        }
        trunk(j);
        if (j.contains("knees")) {
            m_pose.kneeTrack[lead] = j.at("knees").at(0).get<double>() * m_body.scale();
            m_pose.kneeTrack[rear] = j.at("knees").at(1).get<double>() * m_body.scale();
        }
        if (const auto hands = j.find("hands"); hands != j.end()) {
            if (hands->contains("lead")) hand(hands->at("lead"), m_pose.hand[lead]);
            if (hands->contains("rear")) hand(hands->at("rear"), m_pose.hand[rear]);
        }
        m.pose = m_pose;
        return m;
    }

private:
    double toLead() const { return m_lead == Side::Right ? 1 : -1; }

    /// A number, or the name of a stance kind: what the school asks of that stance.
    double orStance(const Json& value, Measure m) const
    {
        if (!value.is_string()) return value.get<double>();
        PhaseStandard phase;
        const auto stance = stanceFromName(value.get<std::string>());
        if (!stance) throw std::invalid_argument("there is no stance \"" + value.get<std::string>() + "\"");
        phase.stance = *stance;
        const Band band = m_standards.bandsFor(phase, m_school, m_body.footLength()).at(m);
        if (m != Measure::StanceLength) return band.centre();
        // Knees that bend less take shorter steps; lower stances are longer ones.
        const double step = m_body.kneeLimit < kShortStepKnee ? 0 : m_style.step - 0.04 * m_manner.height;
        return mix(band.low, band.high, clampTo(step, 0, 1));
    }

    static void window(const Json& timing, const char* name, Window& w)
    {
        if (const auto t = timing.find(name); t != timing.end()) w = {t->at(0), t->at(1)};
    }

    void trunk(const Json& j)
    {
        if (j.contains("height"))
            m_pose.pelvisHeight = (j.at("height").get<double>() + m_style.height + m_manner.height) / 100;
        if (j.contains("pelvis")) m_pose.pelvisHeading = m_heading + toLead() * j.at("pelvis").get<double>();
        if (j.contains("thorax")) m_pose.thoraxHeading = m_heading + toLead() * j.at("thorax").get<double>();
        if (j.contains("gaze")) m_pose.headHeading = m_heading + toLead() * j.at("gaze").get<double>();
        if (j.contains("drop")) m_pose.headPitch = j.at("drop");
        m_pose.leanDirection = m_heading;
        if (j.contains("lean")) m_pose.leanForward = orStance(j.at("lean"), Measure::TrunkLeanForward);
        if (j.contains("side")) m_pose.leanSide = toLead() * j.at("side").get<double>();
    }

    /// A foot's new place, from the other foot: along and across the posture's direction in foot lengths,
    /// across positive to the lead side. "bow" means the school's stance, "beside" parallel as wide as the
    /// school stands, {"standing": 1.2} so many times as wide.
    void foot(const Json& j, Side side)
    {
        FootPose& f = m_pose.foot[side];
        const double length = m_body.footLength();
        const double ahead = side == m_lead ? 1 : -1; // the rear foot lies behind and to the other side
        const auto coordinate = [&](const char* name, Measure stance, double beside) {
            const Json& v = j.at(name);
            if (v.is_object()) return v.at("standing").get<double>() * m_style.standing * length;
            if (!v.is_string()) return v.get<double>() * length;
            return ahead * (v == "beside" ? beside * length : orStance(v, stance));
        };
        const Vector2d ball =
            f.heel + headingForward(f.heading).head<2>() * m_body.heelToBall(); // before it turns
        if (const auto turn = j.find("turn"); turn != j.end()) {
            const double out = turn->is_string() ? m_style.rearFootTurn : turn->get<double>();
            f.heading = m_heading + (side == Side::Right ? out : -out);
        }
        if (j.contains("along")) {
            const double along = coordinate("along", Measure::StanceLength, 0),
                         across = coordinate("across", Measure::StanceWidth, m_style.standing);
            f.heel =
                m_pose.foot[other(side)].heel +
                (headingForward(m_heading) * along + headingRight(m_heading) * toLead() * across).head<2>();
        } else if (j.value("pivot", "heel") == "ball") {
            f.onBall = true;
            f.heel = ball - headingForward(f.heading).head<2>() * m_body.heelToBall();
        }
        f.lift = j.value("lift", 0.0) * m_body.scale();
        const auto pitch = j.find("pitch");
        f.pitch = pitch == j.end()     ? 0
                  : pitch->is_string() ? m_style.toeLift // "toes": as the school lets them rise
                                       : pitch->get<double>();
    }

    static void hand(const Json& j, HandPose& h)
    {
        if (j.contains("out")) h.place.x() = j.at("out");
        if (j.contains("front")) h.place.y() = j.at("front");
        if (j.contains("height")) h.place.z() = j.at("height");
        if (j.contains("elbow")) h.elbowOut = j.at("elbow");
        if (const auto p = j.find("palm"); p != j.end())
            h.palm = Eigen::Vector3d(p->at(0).get<double>(), p->at(1).get<double>(), p->at(2).get<double>());
        const std::string shape = j.value("shape", "open"); // a hand that moves on opens again
        h.curl = shape == "fist" ? kFistCurl : shape == "hook" ? kHookCurl : 0;
        h.drop = shape == "hook" ? kHookDrop : 0;
    }

    const Standards& m_standards;
    const SchoolStandard& m_school;
    const SchoolStyle& m_style;
    const BodyShape& m_body;
    const Manner& m_manner;
    Side m_lead = Side::Right;
    double m_heading = 0;
    Pose m_pose;
};

} // namespace

const std::map<std::string, double>& stanceLevels()
{
    static const std::map<std::string, double> levels{{"low", -3.5}, {"middle", 0}, {"high", 4}};
    return levels;
}

std::vector<int> footPlaces(const std::vector<Moment>& moments, Side side)
{
    std::vector<int> place(moments.size(), 0);
    for (std::size_t i = 1; i < moments.size(); ++i) {
        const FootPose &before = moments[i - 1].pose.foot[side], &now = moments[i].pose.foot[side];
        const bool moved = !now.onBall && (now.heel - before.heel).norm() > 1e-6;
        place[i] = place[i - 1] + (moved ? 1 : 0);
    }
    return place;
}

void settleHeights(std::vector<Moment>& moments, const BodyShape& body)
{
    constexpr double soft = 0.02; // m: the legs' reach is met softly, a little of the wish has to stay
    for (Moment& m : moments) {
        const double reached = poseFigure(body, m.pose).midHip.z();
        m.pose.pelvisHeight = std::min(m.pose.pelvisHeight, (reached + soft) / body.standingHipHeight());
    }
}

void settleBallTurns(std::vector<Moment>& moments, const BodyShape& body)
{
    for (Side side : {Side::Left, Side::Right}) {
        const std::vector<int> place = footPlaces(moments, side);
        const auto toBall = [&](const FootPose& f) {
            return Vector2d(headingForward(f.heading).head<2>() * body.heelToBall());
        };
        for (std::size_t i = 1; i < moments.size(); ++i) {
            const FootPose &before = moments[i - 1].pose.foot[side], &now = moments[i].pose.foot[side];
            if (!now.onBall) continue;
            const Vector2d change = before.heel + toBall(before) - toBall(now) - now.heel;
            for (std::size_t k = i; k < moments.size() && place[k] == place[i]; ++k)
                moments[k].pose.foot[side].heel += change;
        }
    }
}

Result<std::vector<Moment>> choreograph(const Standards& standards, const FormStandard& form,
                                        const SchoolStandard& school, Side lead, const BodyShape& body,
                                        const Manner& manner)
{
    MoveReader reader(standards, school, body, manner);
    std::vector<Moment> moments;
    for (const FormStep& step : form.steps) {
        const PostureStandard* posture = standards.posture(step.posture);
        for (const PhaseStandard& phase : posture->phases) {
            const auto raised = school.style.hands.find(posture->id + "/" + phase.id);
            try {
                const Json moves = Json::parse(phase.moves);
                for (const Json& move : moves) {
                    Moment m = reader.read(move, form.leadOf(step, lead), form.headingOf(step, lead));
                    m.posture = posture->id;
                    m.phase = phase.id;
                    m.stance = phase.stance;
                    if (raised != school.style.hands.end())
                        for (Side s : {Side::Left, Side::Right})
                            m.pose.hand[s].place.z() += raised->second;
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
