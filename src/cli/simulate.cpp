#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "exchange/track_file.h"
#include "pipeline/truth_json.h"
#include "render/simulated_clip.h"
#include <algorithm>
#include <cstdio>
#include <memory>
#include <optional>

namespace jl::cli
{
namespace
{

struct SimulateOptions {
    bool list = false;
    std::string form = "sparrow-tail", side = "R", school = "upright-broad", body, camera = "side",
                hall = "evening", size = "1280x720", stance = "middle", passer;
    std::vector<std::string> faults;
    double fps = 30, noise = 2, tempo = 1, quality = 23, shutter = 0, shake = 0, uneven = 0, roll = 0,
           aside = 0, mirror = 0;
    bool portrait = false, jump = false, sound = false;
    std::uint32_t seed = 1;
    std::string out, truth, track;
};

int printList(const Standards& standards, const std::vector<BodyShape>& bodies)
{
    using Json = nlohmann::ordered_json;
    Json j;
    for (const auto& p : standards.postures)
        j["postures"].push_back({{"id", p.id}, {"name", p.name}});
    for (const auto& f : standards.forms)
        if (!f.single) j["forms"].push_back({{"id", f.id}, {"name", f.name}});
    for (const auto& f : faultKinds()) {
        j["faults"].push_back({{"id", f.id},
                               {"measure", f.measure ? Json(measureInfo(*f.measure).key) : Json(nullptr)},
                               {"unit", f.unit},
                               {"usual", f.usual},
                               {"largest", f.largest},
                               {"meaning", f.meaning}});
    }
    for (const auto& b : bodies)
        j["bodies"].push_back({{"id", b.id}, {"name", b.name}, {"height", b.height}});
    for (const auto& s : standards.schools)
        j["schools"].push_back({{"id", s.id}, {"name", s.name}});
    for (const auto& h : halls())
        j["halls"].push_back({{"id", h.id}, {"name", h.name}});
    for (const auto& [level, height] : stanceLevels())
        j["stances"].push_back({{"id", level}, {"pelvis_height", height}});
    j["cameras"] = {"front", "corner", "side", "behind"};
    std::printf("%s\n", j.dump(1).c_str());
    return 0;
}

Result<BodyShape> bodyNamed(const std::vector<BodyShape>& bodies, const std::string& id)
{
    for (const BodyShape& b : bodies)
        if (b.id == id) return b;
    return unknownId("body", id, idsOf(bodies));
}

/// Somebody who walks through the picture during the middle fifth of a performance.
Result<Performance> passer(const Standards& standards, const BodyShape& body)
{
    PerformanceRequest walk;
    walk.form = "bow-walk";
    walk.body = body;
    return Performance::create(standards, walk);
}

int runSimulate(const SimulateOptions& o)
{
    const auto standards = Standards::load(dataFolder());
    if (!standards) return fail(standards.error());
    const auto bodies = loadBodies(dataFolder());
    if (!bodies) return fail(bodies.error());
    if (o.list) return printList(*standards, *bodies);
    if (o.out.empty() && o.truth.empty() && o.track.empty())
        return fail({Error::Kind::WrongUse, "nothing to make", "simulate",
                     "Name a video with -o, or ask for --truth or --track."});

    PerformanceRequest request;
    request.form = o.form;
    request.school = o.school;
    request.lead = o.side == "L" ? Side::Left : Side::Right;
    request.seed = o.seed;
    request.tempo = o.tempo;
    request.manner = {stanceLevels().at(o.stance), o.jump};
    if (o.body.empty()) {
        request.body = (*bodies)[o.seed % bodies->size()];
    } else {
        const auto body = bodyNamed(*bodies, o.body);
        if (!body) return fail(body.error());
        request.body = *body;
    }
    for (const std::string& text : o.faults) {
        auto fault = parseFault(text);
        if (!fault) return fail(fault.error());
        request.faults.push_back(std::move(*fault));
    }
    const auto performance = Performance::create(*standards, request);
    if (!performance) return fail(performance.error());

    ClipRequest clip;
    const auto place = cameraPlace(o.camera, o.seed);
    if (!place) return fail(place.error());
    clip.camera = *place;
    clip.hall = o.hall;
    clip.framesPerSecond = o.fps;
    clip.noise = o.noise;
    clip.seed = o.seed;
    clip.quality = o.quality;
    clip.sound = o.sound;
    clip.shutter = o.shutter;
    clip.shake = o.shake;
    clip.uneven = o.uneven;
    clip.camera.roll += o.roll;
    clip.camera.aside = o.aside;
    char rest = 0;
    if (std::sscanf(o.size.c_str(), "%dx%d%c", &clip.width, &clip.height, &rest) != 2 || clip.width < 64 ||
        clip.height < 64 || clip.width > 4096 || clip.height > 4096 || clip.width % 2 || clip.height % 2)
        return fail({Error::Kind::WrongUse, "the size \"" + o.size + "\" cannot be used", "--size",
                     "Give even numbers from 64 to 4096, such as 1280x720."});
    if (o.portrait) { // the sensor lies on its side
        std::swap(clip.width, clip.height);
        clip.quarterTurns = 1;
    }
    std::optional<Performance> other;
    if (!o.passer.empty()) {
        const auto body = bodyNamed(*bodies, o.passer);
        if (!body) return fail(body.error());
        auto walk = passer(*standards, *body);
        if (!walk) return fail(walk.error());
        other = std::move(*walk);
        clip.company.passer = &*other;
        clip.company.begin = 0.4 * performance->duration();
        clip.company.end = 0.6 * performance->duration();
    }
    clip.company.mirror = o.mirror;
    if (!o.out.empty()) {
        clip.progress = progressOnStderr("rendering");
        const auto done = renderClip(*performance, clip, o.out);
        if (!done) return fail(done.error());
    }
    if (!o.truth.empty()) {
        const auto done = writeText(o.truth, truthJson(*performance, clip));
        if (!done) return fail(done.error());
    }
    if (!o.track.empty()) {
        const auto done = writeTrack(exactTrack(*performance, clip), o.track);
        if (!done) return fail(done.error());
    }
    return 0;
}

} // namespace

void addSimulate(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<SimulateOptions>();
    CLI::App* c = program.add_subcommand("simulate", "Film the built-in performer: a clip with exact truth.");
    c->add_flag("--list", o->list, "Print what there is (JSON) and stop");
    c->add_option("--form", o->form, "Form to perform")->capture_default_str();
    c->add_option("--side", o->side, "Leading side, L or R")
        ->check(CLI::IsMember({"L", "R"}))
        ->capture_default_str();
    c->add_option("--school", o->school, "School")->capture_default_str();
    c->add_option("--body", o->body, "Body; by default one chosen by the seed");
    c->add_option("--fault", o->faults,
                  "Fault with its size: id=size, id=size@posture or id=size@posture/phase; may be repeated");
    c->add_option("--camera", o->camera, "front, corner, side, behind, or AZ,EL,DIST")->capture_default_str();
    c->add_option("--hall", o->hall, "Hall")->capture_default_str();
    c->add_option("--fps", o->fps, "Frames per second")->check(CLI::Range(5.0, 120.0))->capture_default_str();
    c->add_option("--size", o->size, "Picture size")->capture_default_str();
    c->add_option("--seed", o->seed, "Seed of the small natural variations; 0 performs exactly as written")
        ->capture_default_str();
    c->add_option("--noise", o->noise, "Sensor noise, 8 bit levels")
        ->check(CLI::Range(0.0, 30.0))
        ->capture_default_str();
    c->add_option("--shutter", o->shutter, "Motion blur: share of a frame's time the shutter is open")
        ->check(CLI::Range(0.0, 1.0));
    c->add_option("--shake", o->shake, "A hand-held camera: how far the picture wanders, pixels")
        ->check(CLI::Range(0.0, 60.0));
    c->add_option("--uneven", o->uneven, "Variable frame rate: how far frames are off their time, share")
        ->check(CLI::Range(0.0, 1.0));
    c->add_option("--roll", o->roll, "A camera held askew, degrees")->check(CLI::Range(-30.0, 30.0));
    c->add_option("--aside", o->aside, "How far off the middle the performer stands, share of the width")
        ->check(CLI::Range(-0.4, 0.4));
    c->add_option("--passer", o->passer, "Body of somebody who walks through the picture half way");
    c->add_option("--mirror", o->mirror, "A mirror so many metres behind the performer")
        ->check(CLI::Range(0.5, 5.0));
    c->add_flag("--sound", o->sound, "With the sound of the hall: a plucked tune and footfalls");
    c->add_flag("--portrait", o->portrait, "A phone held upright: lying pictures with rotation metadata");
    c->add_option("--stance", o->stance, "How high the stances are: low, middle or high")
        ->check(CLI::IsMember(stanceLevels()))
        ->capture_default_str();
    c->add_flag("--jump", o->jump, "Leave the floor where a posture offers a jump");
    c->add_option("--tempo", o->tempo, "Speed of the performance")
        ->check(CLI::Range(0.3, 3.0))
        ->capture_default_str();
    c->add_option("--quality", o->quality, "Video coding, lower is better and larger")
        ->check(CLI::Range(10.0, 40.0))
        ->capture_default_str();
    c->add_option("-o,--out", o->out, "Video file to write");
    c->add_option("--truth", o->truth, "Write the exact measures as JSON");
    c->add_option("--track", o->track, "Write the exact body points as a track");
    c->callback([o, &exitCode] { exitCode = runSimulate(*o); });
}

} // namespace jl::cli
