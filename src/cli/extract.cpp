#include "cli/commands.h"
#include "exchange/track_file.h"
#include "vision/extraction.h"
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <memory>
#include <nlohmann/json.hpp>

namespace jl::cli
{
namespace
{

struct ExtractOptions {
    std::string clip, out, model = "auto", range, person;
    int threads = 0;
    bool json = false;
};

int runExtract(const ExtractOptions& o)
{
    const auto networks = networksFromName(o.model);
    if (!networks) return fail(networks.error());
    ExtractionOptions options;
    options.networks = *networks;
    options.threads = o.threads;
    options.progress = progressOnStderr("extracting");
    if (!o.range.empty()) {
        double a = 0, b = 0;
        char rest = 0;
        if (std::sscanf(o.range.c_str(), "%lf,%lf%c", &a, &b, &rest) != 2 || a < 0 || b <= a)
            return fail({Error::Kind::WrongUse, "the range \"" + o.range + "\" makes no sense", "--range",
                         "Give two times in seconds, such as 2.5,10."});
        options.range = std::pair(a, b);
    }
    if (!o.person.empty()) {
        ChosenPerson person;
        char rest = 0;
        if (std::sscanf(o.person.c_str(), "%lf,%lf,%lf%c", &person.time, &person.point.x(), &person.point.y(),
                        &rest) != 3 ||
            person.time < 0)
            return fail({Error::Kind::WrongUse, "nobody can be chosen by \"" + o.person + "\"", "--person",
                         "Give a time in seconds and a point in pixels, such as 2.5,640,360."});
        options.person = person;
    }
    if (o.model == "auto" && networks->model == LandmarkModel::Lite)
        std::fprintf(
            stderr,
            "The larger networks are not installed; working with lite, whose values are less certain.\n");
    const auto begin = std::chrono::steady_clock::now();
    const auto track = extractTrack(o.clip, options);
    if (!track) return fail(track.error());
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    const auto written = writeTrack(*track, o.out);
    if (!written) return fail(written.error());
    const auto seen =
        std::count_if(track->frames.begin(), track->frames.end(), [](const BodyFrame& f) { return f.seen; });
    const nlohmann::ordered_json summary{{"clip", o.clip},
                                         {"model", track->model},
                                         {"frames", track->frames.size()},
                                         {"tracked", seen},
                                         {"seconds", seconds},
                                         {"fps", static_cast<double>(track->frames.size()) / seconds}};
    if (o.json)
        std::printf("%s\n", summary.dump(1).c_str());
    else
        std::printf("%zu frames, body found in %ld, %.1f frames/s with %s\n", track->frames.size(),
                    static_cast<long>(seen), static_cast<double>(track->frames.size()) / seconds,
                    track->model.c_str());
    return 0;
}

} // namespace

void addExtract(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<ExtractOptions>();
    CLI::App* c = program.add_subcommand("extract", "Find the body in every frame of a clip.");
    c->add_option("clip", o->clip, "Video file")->required();
    c->add_option("-o,--out", o->out, "Track to write: .json, .csv or .trc")->required();
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("--threads", o->threads, "Threads; 0 for one per core")
        ->check(CLI::Range(0, 64))
        ->capture_default_str();
    c->add_option("--range", o->range, "Only from A to B seconds: A,B");
    c->add_option("--person", o->person,
                  "Whom to follow among several people: who is at pixel X,Y at second T, as T,X,Y");
    c->add_flag("--json", o->json, "Print a summary as JSON");
    c->callback([o, &exitCode] { exitCode = runExtract(*o); });
}

} // namespace jl::cli
