#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "pipeline/table_fit.h"
#include "pipeline/tracking_report.h"
#include <cstdio>
#include <cstdlib>
#include <memory>

namespace jl::cli
{
namespace
{

struct Options {
    bool quick = false, json = false;
    std::uint32_t seed = 20260;
    int cases = 0;
    std::string model = "auto", cache, samples, offsets, accuracy;
};

std::filesystem::path cacheFolder(const Options& o)
{
    if (!o.cache.empty()) return o.cache;
    if (const char* home = std::getenv("XDG_CACHE_HOME"))
        return std::filesystem::path(home) / "jolly-lantern/validation";
    const char* home = std::getenv("HOME");
    return std::filesystem::path(home ? home : "/tmp") / ".cache/jolly-lantern/validation";
}

/// Every single sample, for a closer look at where errors come from.
void writeSamples(const std::vector<CaseOutcome>& outcomes, const std::string& file)
{
    std::FILE* out = std::fopen(file.c_str(), "w");
    if (!out) return;
    std::fprintf(out,
                 "form,school,view,body,lead,seed,posture,phase,measure,seen,value,u,truth,time_error,azimuth_error\n");
    for (const CaseOutcome& o : outcomes)
        for (const ValidationSample& s : o.samples)
            std::fprintf(out, "%s,%s,%s,%zu,%c,%u,%s,%s,%s,%d,%.5f,%.5f,%.5f,%.3f,%.2f\n",
                         o.request.form.c_str(), o.request.school.c_str(), s.view.c_str(),
                         o.request.body, o.request.lead == Side::Left ? 'L' : 'R', o.request.seed,
                         s.posture.c_str(), s.phase.c_str(),
                         std::string(measureInfo(s.value.measure).key).c_str(), s.value.seen ? 1 : 0,
                         s.value.value, s.value.u, s.truth, s.keyMomentError, o.azimuthError);
    std::fclose(out);
}

/// Reads the pairs of clips that were filmed at once together; how many there were.
int addPairs(const ShippedData& data, std::vector<CaseOutcome>& outcomes)
{
    int pairs = 0;
    const std::size_t single = outcomes.size();
    for (std::size_t i = 1; i < single; ++i) {
        const ValidationCase &a = outcomes[i - 1].request, &b = outcomes[i].request;
        if (a.seed != b.seed || a.form != b.form || a.view == b.view) continue;
        auto pair = pairOutcome(data, outcomes[i - 1], outcomes[i]);
        if (pair) {
            ++pairs;
            outcomes.push_back(std::move(*pair));
        } else {
            std::fprintf(stderr, "pair (%s, %s and %s, seed %u): %s\n", a.form.c_str(), a.view.c_str(),
                         b.view.c_str(), a.seed, pair.error().what.c_str());
        }
    }
    return pairs;
}

int run(const Options& o)
{
    const auto data = ShippedData::load(dataFolder());
    if (!data) return fail(data.error());
    const auto networks = networksFromName(o.model);
    if (!networks) return fail(networks.error());
    const int count = o.cases > 0 ? o.cases : o.quick ? 40 : 300;
    const auto cases = o.quick ? quickCases(*data, o.seed, count) : fullCases(*data, o.seed, count);
    const Progress progress = progressOnStderr("validating");
    std::vector<CaseOutcome> outcomes;
    int failed = 0;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        progress(static_cast<double>(i) / static_cast<double>(cases.size()));
        auto outcome = runCase(*data, cases[i], *networks, cacheFolder(o));
        if (outcome) {
            outcomes.push_back(std::move(*outcome));
        } else {
            ++failed;
            std::fprintf(stderr, "case %zu (%s, seed %u): %s\n", i, cases[i].view.c_str(), cases[i].seed,
                         outcome.error().message().c_str());
        }
    }
    progress(1);
    const int pairs = o.quick ? 0 : addPairs(*data, outcomes);
    const auto rows = accuracyRows(outcomes);
    if (!o.samples.empty()) writeSamples(outcomes, o.samples);
    if (!o.offsets.empty()) {
        const auto table = fitOffsets(*data, outcomes);
        if (!table) return fail(table.error());
        if (const auto written = writeText(o.offsets, *table); !written) return fail(written.error());
    }
    if (!o.accuracy.empty())
        if (const auto written = writeText(o.accuracy, fitAccuracy(outcomes)); !written)
            return fail(written.error());
    const auto followed = followedPostures(*data, outcomes);
    if (!followed) return fail(followed.error());
    if (o.json)
        std::printf("{\"cases\":%zu,\"failed\":%d,\"pairs\":%d,\"model\":\"%s\",\"rows\":%s,\"followed\":%s}\n", cases.size(),
                    failed, pairs, networks->name().c_str(), accuracyJson(rows).c_str(),
                    followedJson(*followed).c_str());
    else
        std::printf(
            "%zu rendered cases with %s, %d failed, %d pairs read together; errors at the key moments that ask for the measure\n%s\n%s",
            cases.size(), networks->name().c_str(), failed, pairs, accuracyText(rows).c_str(),
            followedText(*followed).c_str());
    return 0;
}

} // namespace

void addValidate(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<Options>();
    CLI::App* c = program.add_subcommand(
        "validate", "Accuracy against rendered performances whose truth is known, per measure and view.");
    c->add_flag("--quick", o->quick, "40 cases of one section instead of 300 over all postures");
    c->add_flag("--json", o->json, "Print JSON");
    c->add_option("--seed", o->seed, "Seed of the set of cases")->capture_default_str();
    c->add_option("--cases", o->cases, "Number of cases")->check(CLI::Range(0, 100000));
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("--cache", o->cache, "Folder for extracted tracks");
    c->add_option("--samples", o->samples, "Write every value with its truth as CSV");
    c->add_option("--fit-offsets", o->offsets,
                  "Write the landmark offsets that fit this set (for data/measure)");
    c->add_option("--fit-accuracy", o->accuracy,
                  "Write the bias and floor table of this set (for data/measure)");
    c->callback([o, &exitCode] { exitCode = run(*o); });
}

} // namespace jl::cli
