#include "base/paths.h"
#include "cli/bench_export.h"
#include "cli/commands.h"
#include "lab/benchmark.h"
#include "lab/interface_clip.h"
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <memory>
#include <unistd.h>

namespace jl::cli
{
namespace
{

struct BenchOptions {
    std::string clip, model = "auto";
    bool json = false, ui = false, exports = false;
    double minutes = 0;
};

/// A folder of its own that is removed again.
struct TemporaryFolder {
    std::filesystem::path path =
        std::filesystem::temp_directory_path() / ("jolly-lantern-bench-" + std::to_string(::getpid()));

    TemporaryFolder() { std::filesystem::create_directories(path); }
    ~TemporaryFolder()
    {
        std::error_code ignored; // a leftover in the temporary folder harms nobody
        std::filesystem::remove_all(path, ignored);
    }
    TemporaryFolder(const TemporaryFolder&) = delete;
};

/// The window is measured by the program that has one, which lies beside this one.
int runInterface(double minutes)
{
    std::error_code wrong;
    const auto self = std::filesystem::read_symlink("/proc/self/exe", wrong);
    const auto window = self.parent_path() / "jolly-lantern";
    if (wrong || !std::filesystem::exists(window, wrong))
        return fail({Error::Kind::BadInput, "the window's program is not there", window.string(),
                     "Build it first: ./lantern build."});
    const auto data = LabData::load(dataFolder());
    if (!data) return fail(data.error());
    TemporaryFolder folder;
    const auto made = makeInterfaceClip(*data, minutes, folder.path);
    if (!made) return fail(made.error());
    const std::string screen =
        std::string("LANTERN_NO_DIALOG=1 ") + (std::getenv("DISPLAY") ? "" : "QT_QPA_PLATFORM=offscreen ");
    std::fflush(stdout);
    const std::string command =
        screen + "'" + window.string() + "' --bench-interface '" + folder.path.string() + "'";
    return std::system(command.c_str()) == 0 ? 0 : 3;
}

int runBench(const BenchOptions& o)
{
    if (o.ui) return runInterface(o.minutes);
    const auto networks = networksFromName(o.model);
    if (!networks) return fail(networks.error());
    if (o.exports) {
        const auto figures = benchmarkExport(o.clip, *networks);
        if (!figures) return fail(figures.error());
        std::printf("%s\n", (o.json ? exportJson(*figures) : exportText(*figures)).c_str());
        return 0;
    }
    const auto data = LabData::load(dataFolder());
    if (!data) return fail(data.error());
    const auto figures = runBenchmark(*data, *networks, o.clip);
    if (!figures) return fail(figures.error());
    if (o.json)
        std::printf("%s\n", benchmarkJson(*figures).c_str());
    else
        std::printf("%s", benchmarkText(*figures).c_str());
    return 0;
}

} // namespace

void addBench(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<BenchOptions>();
    CLI::App* c = program.add_subcommand("bench", "Throughput, latency and memory on this machine.");
    c->add_option("--clip", o->clip, "Clip to extract; by default one is rendered");
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_flag("--ui", o->ui, "Measure the window instead: opening, scrubbing, playing, painting (JSON)");
    c->add_flag("--export", o->exports,
                "Measure exports instead: the page for the student, moving pictures, the bundle");
    c->add_option("--minutes", o->minutes, "With --ui: how long the clip is; by default half a minute")
        ->check(CLI::Range(0.0, 60.0));
    c->add_flag("--json", o->json, "Print JSON");
    c->callback([o, &exitCode] { exitCode = runBench(*o); });
}

} // namespace jl::cli
