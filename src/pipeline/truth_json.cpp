#include "pipeline/truth_json.h"
#include "performer/derived_truth.h"
#include "performer/events.h"
#include "performer/phase_truth.h"
#include "performer/truth.h"
#include <nlohmann/json.hpp>

namespace jl
{

namespace
{

nlohmann::ordered_json wholeJson(const PhaseTruth& t)
{
    using Json = nlohmann::ordered_json;
    const auto orNull = [](const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); };
    return {{"phase.duration", t.duration},
            {"pelvis.turn", t.pelvisTurn},
            {"pivot.L.amount", t.pivot[Side::Left].amount},
            {"pivot.R.amount", t.pivot[Side::Right].amount},
            {"pivot.L.on", orNull(t.pivot[Side::Left].about)},
            {"pivot.R.on", orNull(t.pivot[Side::Right].about)},
            {"pelvis.bob", t.bob},
            {"knee.lead.drift", t.kneeDrift},
            {"weight.transfer.evenness", t.backwardShift},
            {"weight.double.time", t.doubleTime},
            {"turn.leads", orNull(t.turnLeads)},
            {"hand_foot.lag", orNull(t.handsAfterWeight)},
            {"order.shift.step", orNull(t.order.shiftStep)},
            {"order.turn.step", orNull(t.order.turnStep)},
            {"order.shift.turn", orNull(t.order.shiftTurn)},
            {"order.shift.sink", orNull(t.order.shiftSink)},
            {"flow.smoothness", t.smoothness},
            {"flow.pauses", t.pauses},
            {"balance.hold", t.oneLegTime},
            {"balance.touches", t.touches ? Json(*t.touches) : Json(nullptr)},
            {"balance.sway", t.sway}};
}

template <class Each>
void eachTruth(const Figure& figure, const PerformedPhase& p, const Each& each)
{
    for (const MeasureInfo& m : allMeasures())
        each(measureId(m.measure, p.lead), trueMeasure(m.measure, figure, p.lead, p.heading));
    for (const NamedTruth& t : derivedTruth(figure, p.lead, p.heading))
        each(std::string(t.id), t.value);
}

/// Runs of phases of one posture, from the start of the first to the key moment of the last.
nlohmann::ordered_json posturesJson(const Performance& performance)
{
    auto postures = nlohmann::ordered_json::array();
    std::string first; // phase of the posture under way; it comes again when the posture is repeated
    const PerformedPhase* before = nullptr;
    for (const PerformedPhase& p : performance.phases()) {
        const bool goesOn =
            before && p.posture == before->posture && p.lead == before->lead && p.phase != first;
        if (!goesOn) {
            first = p.phase;
            postures.push_back(
                {{"posture", p.posture}, {"side", p.lead == Side::Left ? "L" : "R"}, {"begin", p.begin}});
        }
        auto& last = postures.back();
        last["end"] = p.time;
        last["posture.duration"] = p.time - last["begin"].get<double>();
        before = &p;
    }
    return postures;
}

} // namespace

std::string truthJson(const Performance& performance, const ClipRequest& request)
{
    using Json = nlohmann::ordered_json;
    Json j;
    j["faults"] = Json::array();
    for (const PerformedFault& f : performance.faults())
        j["faults"].push_back({{"id", f.id}, {"size", f.size}, {"posture", f.posture}, {"phase", f.phase}});
    j["phases"] = Json::array();
    for (const PerformedPhase& p : performance.phases()) {
        Json measures;
        const Figure figure = performance.movingFigureAt(p.time);
        eachTruth(figure, p, [&](const std::string& id, double value) { measures[id] = value; });
        j["phases"].push_back({{"posture", p.posture},
                               {"side", p.lead == Side::Left ? "L" : "R"},
                               {"phase", p.phase},
                               {"heading", p.heading},
                               {"time", p.time},
                               {"begin", p.begin},
                               {"measures", measures},
                               {"whole", wholeJson(phaseTruth(performance, p))}});
    }
    j["postures"] = posturesJson(performance);
    j["events"] = Json::array();
    for (const FloorEvent& e : floorEvents(performance)) {
        const bool contact = e.kind == FloorEvent::Kind::Contact;
        Json event{{"what", contact ? "contact" : "lift"},
                   {"side", e.side == Side::Left ? "L" : "R"},
                   {"time", e.time},
                   {"weight", e.weight}};
        if (contact) {
            event["how"] = e.how;
            event["flat"] = e.flatAt;
            event["heel_to_flat"] = e.flatAt - e.time;
            event["weight_after"] = e.weightAfter;
            event["drop"] = e.drop;
        }
        j["events"].push_back(std::move(event));
    }
    const Camera c = cameraFor(performance, request);
    j["camera"] = {{"azimuth", request.camera.azimuth},
                   {"elevation", request.camera.elevation},
                   {"distance", fittedPlace(performance, request).distance},
                   {"roll", request.camera.roll},
                   {"focal", c.focal},
                   {"position", {c.position.x(), c.position.y(), c.position.z()}},
                   {"width", request.width},
                   {"height", request.height}};
    j["body"] = {{"id", performance.body().id},
                 {"height", performance.body().height},
                 {"foot_length", performance.body().footLength()}};
    Json frames;
    frames["time"] = Json::array();
    for (double t : clipTimes(performance, request)) {
        const Figure figure = performance.movingFigureAt(t);
        frames["time"].push_back(t);
        const PerformedPhase& p = performance.phaseAt(t);
        eachTruth(figure, p, [&](const std::string& id, double value) { frames[id].push_back(value); });
    }
    j["frames"] = std::move(frames);
    return j.dump(1);
}

} // namespace jl
