#include "exchange/review_file.h"
#include "base/json_file.h"
#include "review/derived_values.h"
#include "review/posture_time.h"
#include "review/side_difference.h"
#include <cmath>

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

/// Null where nothing was seen.
Json derivedJson(const std::vector<DerivedValue>& derived)
{
    Json all = Json::array();
    for (const DerivedValue& d : derived)
        all.push_back({{"id", d.id},
                       {"unit", derivedUnitName(d.unit)},
                       {"value", d.value.seen() ? Json(d.value.value) : Json(nullptr)},
                       {"u", d.value.seen() ? Json(d.value.u) : Json(nullptr)},
                       {"of", measureInfo(d.value.measure).key}});
    return all;
}

Json heightsJson(const Review& review, std::size_t posture, std::size_t phase)
{
    Json all = Json::array();
    for (const HeightChange& h : heightChanges(review, posture, phase)) {
        const ReviewedPosture& since = review.postures[h.posture];
        all.push_back({{"since", {{"posture", since.id}, {"phase", since.phases[h.phase].student.phase}}},
                       {"value", h.value},
                       {"u", h.u}});
    }
    return all;
}

Json phaseJson(const Review& review, std::size_t posture, std::size_t phase)
{
    const ReviewedPhase& p = review.postures[posture].phases[phase];
    Json measures = Json::array();
    for (const JudgedValue& v : p.values) {
        const bool seen = v.status != Status::Unseen;
        measures.push_back({{"id", measureId(v.value.measure, p.student.lead)},
                            {"value", seen ? Json(v.value.value) : Json(nullptr)},
                            {"u", seen ? Json(v.value.u) : Json(nullptr)},
                            {"status", statusName(v.status)},
                            {"band", bandJson(v.band)},
                            {"ref", v.reference ? Json(*v.reference) : Json(nullptr)},
                            {"view", viewName(v.value.view)},
                            {"plane", planeName(v.value.plane)}});
        if (v.capped) measures.back()["capped"] = true;
    }
    Json whole = Json::array();
    for (const JudgedWhole& w : p.whole) {
        const PhaseValue& v = w.value;
        const bool seen = w.status != Status::Unseen;
        whole.push_back({{"id", phaseMeasureInfo(v.measure).key},
                         {"value", seen ? Json(v.value) : Json(nullptr)},
                         {"u", seen ? Json(v.u) : Json(nullptr)},
                         {"status", statusName(w.status)},
                         {"band", bandJson(w.band)},
                         {"ref", w.reference ? Json(*w.reference) : Json(nullptr)},
                         {"view", v.view}});
    }
    return {{"id", p.student.phase},
            {"gentler", p.gentler},
            {"variant", p.variant},
            {"time", p.student.matched ? Json(p.student.time) : Json(nullptr)},
            {"ref_time", p.referenceTime ? Json(*p.referenceTime) : Json(nullptr)},
            {"measures", std::move(measures)},
            {"derived", p.values.empty() ? Json::array() : derivedJson(derivedValues(p, review.own))},
            {"height_change", heightsJson(review, posture, phase)},
            {"whole", std::move(whole)}};
}

Json durationJson(const ReviewedPosture& posture)
{
    const auto time = postureTime(posture);
    if (!time) return nullptr;
    return {{"value", time->duration},
            {"u", time->u},
            {"ratio", time->ratio ? Json(*time->ratio) : Json(nullptr)}};
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
            {"by", f.byStandard ? "standard" : "reference"},
            {"together", f.together},
            {"root", !f.becauseOf},
            {"because_of", f.becauseOf ? Json(*f.becauseOf) : Json(nullptr)}};
}

Json countsJson(const std::vector<FaultCount>& counts)
{
    Json all = Json::array();
    for (const FaultCount& c : counts)
        all.push_back({{"fault", c.fault},
                       {"severity", severityName(c.severity)},
                       {"shows", c.shows},
                       {"of", c.could}});
    return all;
}

Json meetingJson(const FootEvent& m)
{
    Json event{{"what", m.lift ? "lift" : "contact"}, {"side", sideName(m.side)}, {"time", m.time}};
    if (!m.lift) {
        event["how"] = m.how;
        event["flat"] = m.flatAt;
    }
    return event;
}

} // namespace

namespace
{

Json progressJson(const ProgressSince& p, const Review& r)
{
    Json faults = Json::array(), values = Json::array();
    for (const FaultChange& f : p.faults)
        faults.push_back({{"fault", f.fault}, {"change", changeName(f.change)}, {"words", f.words}});
    for (const ValueChange& v : p.values)
        values.push_back({{"posture", r.postures[v.posture].id},
                          {"phase", v.phase},
                          {"measure", v.measure},
                          {"before", v.before},
                          {"now", v.now},
                          {"u", v.u},
                          {"change", changeName(v.change)}});
    return {{"incomparable", p.incomparable.empty() ? Json(nullptr) : Json(p.incomparable)},
            {"faults", std::move(faults)},
            {"measures", std::move(values)}};
}

} // namespace

namespace
{

Json purposeJson(const PosturePurpose& p)
{
    if (p.use.empty()) return nullptr;
    return {{"for", p.use}, {"force", p.force}, {"direction", p.direction}, {"feel", p.feel}};
}

Json sidesJson(const Review& r)
{
    Json all = Json::array();
    for (const SideDifference& d : sideDifferences(r))
        all.push_back({{"measure", measureInfo(d.measure).key},
                       {"posture", d.posture},
                       {"phase", d.phase},
                       {"difference", d.difference},
                       {"u", d.u},
                       {"words", d.words}});
    return all;
}

Json standingJson(const std::optional<Standing>& standing)
{
    if (!standing) return nullptr;
    Json points = Json::array();
    for (const StandingPoint& p : standing->points)
        points.push_back({{"what", p.what}, {"state", stateName(p.state)}, {"words", p.words}});
    return {{"time", standing->time}, {"points", std::move(points)}};
}

} // namespace

std::string reviewJson(const Review& r, const ProgressSince* progress)
{
    Json j{{"form", r.form},
           {"side", sideName(r.side)},
           {"school", r.school},
           {"level", r.level},
           {"mode", r.mode}};
    j["postures"] = Json::array();
    for (const ReviewedPosture& posture : r.postures) {
        Json phases = Json::array();
        const auto place = static_cast<std::size_t>(&posture - r.postures.data());
        for (std::size_t phase = 0; phase < posture.phases.size(); ++phase)
            phases.push_back(phaseJson(r, place, phase));
        j["postures"].push_back({{"id", posture.id},
                                 {"side", sideName(posture.phases.front().student.lead)},
                                 {"status", postureStatusName(posture.status)},
                                 {"purpose", purposeJson(posture.purpose)},
                                 {"start", posture.phases.front().student.begin},
                                 {"end", posture.phases.back().student.time},
                                 {"duration", durationJson(posture)},
                                 {"phases", std::move(phases)}});
    }
    j["standing"] = standingJson(r.standing);
    j["sides"] = sidesJson(r);
    j["events"] = Json::array();
    for (const FootEvent& m : r.footEvents)
        j["events"].push_back(meetingJson(m));
    j["findings"] = Json::array();
    for (const Finding& f : r.findings)
        j["findings"].push_back(findingJson(r, f));
    j["counts"] = countsJson(r.counts);
    j["teach"] = Json::array();
    for (const Correction& c : r.teach)
        j["teach"].push_back({{"fault", c.fault},
                              {"chain", c.chain},
                              {"title", c.title},
                              {"chain_text", c.chainText},
                              {"why_now", c.whyNow},
                              {"cue", c.cue},
                              {"reason", c.reason},
                              {"drill", c.drill}});
    if (progress) j["progress"] = progressJson(*progress, r);
    j["notes"] = r.notes;
    if (!r.doubt.empty()) j["doubt"] = r.doubt;
    j["cautions"] = r.cautions;
    return j.dump(1);
}

namespace
{

/// A measure's key in lead/rear form from its id in a file, which names the side of the body.
std::string keyOf(const std::string& id, Side lead)
{
    for (const MeasureInfo& m : allMeasures())
        if (measureId(m.measure, lead) == id) return std::string(m.key);
    return id;
}

void addValues(ReviewRecord& record, std::size_t posture, Side lead, const nlohmann::json& phase,
               const char* list)
{
    for (const auto& m : phase.at(list)) {
        if (m.at("value").is_null() || m.at("u").is_null()) continue;
        ReviewRecord::Value v{
            posture, phase.at("id"), keyOf(m.at("id"), lead), m.at("view"), m.at("value"), m.at("u"), {}};
        if (const auto& band = m.at("band"); !band.is_null()) v.band = Band{band.at(0), band.at(1), 0};
        record.values.push_back(std::move(v));
    }
}

} // namespace

namespace
{

Result<ReviewRecord> recordFrom(const nlohmann::json& json, const std::string& where)
{
    ReviewRecord record;
    try {
        record.form = json.at("form");
        record.school = json.at("school");
        record.side = json.at("side") == "L" ? Side::Left : Side::Right;
        for (const auto& posture : json.at("postures")) {
            const Side lead = posture.at("side") == "L" ? Side::Left : Side::Right;
            for (const auto& phase : posture.at("phases")) {
                addValues(record, record.postures.size(), lead, phase, "measures");
                addValues(record, record.postures.size(), lead, phase, "whole");
            }
            record.postures.push_back(posture.at("id"));
        }
        for (const auto& c : json.at("counts")) {
            const std::string severity = c.at("severity");
            record.faults.push_back({c.at("fault"),
                                     severity == "safety"  ? Severity::Safety
                                     : severity == "fault" ? Severity::Fault
                                                           : Severity::Watch,
                                     c.at("shows"), c.at("of")});
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput, std::string("this is no review of this program: ") + e.what(),
                     where, "Give a file that \"review -o\" wrote."};
    }
    return record;
}

} // namespace

Result<ReviewRecord> readRecord(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) return json.error();
    return recordFrom(*json, file.string());
}

Result<ReviewRecord> recordFromJson(const std::string& text, const std::string& where)
{
    return recordFrom(nlohmann::json::parse(text, nullptr, false), where);
}

std::string recordJson(const ReviewRecord& r)
{
    Json j{{"form", r.form}, {"school", r.school}, {"side", sideName(r.side)}};
    std::vector<Json> postures;
    for (const std::string& id : r.postures)
        postures.push_back({{"id", id}, {"side", sideName(r.side)}, {"phases", Json::array()}});
    for (const ReviewRecord::Value& v : r.values) {
        Json& phases = postures.at(v.posture)["phases"];
        if (phases.empty() || phases.back()["id"] != v.phase)
            phases.push_back({{"id", v.phase}, {"measures", Json::array()}, {"whole", Json::array()}});
        phases.back()["measures"].push_back({{"id", v.measure},
                                             {"value", v.value},
                                             {"u", v.u},
                                             {"band", bandJson(v.band)},
                                             {"view", v.view}});
    }
    j["postures"] = postures;
    j["counts"] = countsJson(r.faults);
    return j.dump();
}

} // namespace jl
