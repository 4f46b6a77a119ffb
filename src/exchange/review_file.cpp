#include "exchange/review_file.h"
#include "base/json_file.h"
#include "review/cautions.h"
#include <cmath>
#include <cstdio>
#include <map>

namespace jl
{
namespace
{

using Json = nlohmann::ordered_json;

Json bandJson(const std::optional<Band>& band)
{
    return band ? Json{band->low, band->high} : Json(nullptr);
}

const char* sideName(Side s)
{
    return s == Side::Left ? "L" : "R";
}

Json phaseJson(const ReviewedPhase& p)
{
    Json measures = Json::array();
    for (const JudgedValue& v : p.values) {
        const bool seen = v.status != Status::Unseen;
        measures.push_back({{"id", measureId(v.value.measure, p.student.lead)},
                            {"value", seen ? Json(v.value.value) : Json(nullptr)},
                            {"u", seen ? Json(v.value.u) : Json(nullptr)},
                            {"status", statusName(v.status)},
                            {"band", bandJson(v.band)},
                            {"ref", v.reference ? Json(*v.reference) : Json(nullptr)},
                            {"view", viewName(v.value.view)}});
    }
    Json whole = Json::array();
    for (const JudgedWhole& w : p.whole) {
        const PhaseValue& v = w.value;
        const bool seen = w.status != Status::Unseen;
        whole.push_back({{"id", phaseMeasureInfo(v.measure).key},
                         {"value", seen ? Json(*v.value) : Json(nullptr)},
                         {"u", seen ? Json(*v.u) : Json(nullptr)},
                         {"status", statusName(w.status)},
                         {"band", bandJson(w.band)},
                         {"ref", w.reference ? Json(*w.reference) : Json(nullptr)},
                         {"view", v.view}});
    }
    return {{"id", p.student.phase},
            {"time", p.student.matched ? Json(p.student.time) : Json(nullptr)},
            {"ref_time", p.referenceTime ? Json(*p.referenceTime) : Json(nullptr)},
            {"measures", std::move(measures)},
            {"whole", std::move(whole)}};
}

Json findingJson(const Review& r, const Finding& f)
{
    const ReviewedPosture& posture = r.postures[f.posture];
    const FoundPhase& found = posture.phases[f.phase].student;
    const bool measured = f.measure || f.whole;
    const std::string measure = f.measure ? measureId(*f.measure, found.lead)
                                : f.whole ? std::string(phaseMeasureInfo(*f.whole).key)
                                          : std::string();
    return {{"fault", f.fault},
            {"severity", severityName(f.severity)},
            {"posture", posture.id},
            {"phase", measured ? Json(found.phase) : Json(nullptr)},
            {"time", f.time},
            {"measure", measured ? Json(measure) : Json(nullptr)},
            {"value", measured ? Json(f.value) : Json(nullptr)},
            {"u", measured ? Json(f.u) : Json(nullptr)},
            {"band", bandJson(f.band)},
            {"root", !f.becauseOf},
            {"because_of", f.becauseOf ? Json(*f.becauseOf) : Json(nullptr)}};
}

Json meetingJson(const FloorMeeting& m)
{
    Json event{{"what", m.lift ? "lift" : "contact"}, {"side", sideName(m.side)}, {"time", m.time}};
    if (!m.lift) {
        event["how"] = m.how;
        event["flat"] = m.flatAt;
    }
    return event;
}

} // namespace

std::string reviewJson(const Review& r)
{
    Json j{{"form", r.form},
           {"side", sideName(r.side)},
           {"school", r.school},
           {"level", r.level},
           {"mode", r.mode}};
    j["postures"] = Json::array();
    for (const ReviewedPosture& posture : r.postures) {
        Json phases = Json::array();
        for (const ReviewedPhase& p : posture.phases)
            phases.push_back(phaseJson(p));
        j["postures"].push_back({{"id", posture.id},
                                 {"side", sideName(posture.phases.front().student.lead)},
                                 {"status", posture.status},
                                 {"start", posture.phases.front().student.begin},
                                 {"end", posture.phases.back().student.time},
                                 {"phases", std::move(phases)}});
    }
    j["events"] = Json::array();
    for (const FloorMeeting& m : r.meetings)
        j["events"].push_back(meetingJson(m));
    j["findings"] = Json::array();
    for (const Finding& f : r.findings)
        j["findings"].push_back(findingJson(r, f));
    j["teach"] = Json::array();
    for (const Correction& c : r.teach)
        j["teach"].push_back({{"fault", c.fault},
                              {"chain", c.chain},
                              {"title", c.title},
                              {"chain_text", c.chainText},
                              {"cue", c.cue},
                              {"reason", c.reason},
                              {"drill", c.drill}});
    j["notes"] = r.notes;
    j["cautions"] = cautions();
    return j.dump(1);
}

std::string measuresCsv(const ClipReading& clip)
{
    std::string text = "time";
    for (const MeasureInfo& m : allMeasures()) {
        const std::string id = measureId(m.measure, clip.lead());
        text += "," + id + "," + id + ".u," + id + ".status";
    }
    text += '\n';
    char cell[96];
    for (std::size_t i = 0; i < clip.track.frames.size(); ++i) {
        const double time = clip.track.frames[i].time;
        std::snprintf(cell, sizeof cell, "%.6f", time);
        text += cell;
        // A column keeps its side of the body whichever side leads the posture.
        std::map<std::string, Value> row;
        for (const Value& v : clip.readFrame(i))
            row[measureId(v.measure, clip.leadAt(time))] = v;
        for (const MeasureInfo& m : allMeasures()) {
            const Value& v = row.at(measureId(m.measure, clip.lead()));
            if (v.seen) std::snprintf(cell, sizeof cell, ",%.5f,%.5f,ok", v.value, v.u);
            text += v.seen ? cell : ",,,unseen";
        }
        text += '\n';
    }
    return text;
}

std::string measuresCsv(const MotionReading& motion)
{
    const Side side = motion.lineUp.phases.front().lead;
    std::string text = "time,posture,phase";
    for (const MeasureInfo& m : allMeasures())
        text += "," + measureId(m.measure, side);
    text += '\n';
    char cell[64];
    for (std::size_t i = 0; i < motion.motion.frames.size(); ++i) {
        const FoundPhase& phase = motion.lineUp.phaseAt(motion.motion.time[i]);
        std::snprintf(cell, sizeof cell, "%.6f", motion.motion.time[i]);
        text += cell + ("," + phase.posture + "," + phase.phase);
        std::map<std::string, double> row;
        for (const MeasureInfo& m : allMeasures())
            row[measureId(m.measure, phase.lead)] = motion.value(m.measure, i);
        for (const MeasureInfo& m : allMeasures()) {
            const double value = row.at(measureId(m.measure, side));
            std::snprintf(cell, sizeof cell, ",%.5f", value);
            text += std::isfinite(value) ? cell : ",";
        }
        text += '\n';
    }
    return text;
}

Result<PersonProfile> readProfile(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    PersonProfile profile;
    try {
        if (const auto h = json->find("height"); h != json->end()) profile.height = h->get<double>();
        if (const auto f = json->find("foot_length"); f != json->end()) profile.footLength = f->get<double>();
    } catch (const nlohmann::json::exception&) {
        return Error{Error::Kind::BadInput, "height and foot_length must be numbers in metres", file.string(),
                     "Write for example {\"height\": 1.68}."};
    }
    if (profile.height && (*profile.height < 0.9 || *profile.height > 2.3))
        return Error{Error::Kind::BadInput, "the height is not one of a person", file.string(),
                     "Give it in metres, such as 1.68."};
    if (profile.footLength && (*profile.footLength < 0.15 || *profile.footLength > 0.40))
        return Error{Error::Kind::BadInput, "the foot length is not one of a person", file.string(),
                     "Give it in metres, such as 0.26."};
    return profile;
}

} // namespace jl
