#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "lab/accuracy_page.h"
#include "lab/accuracy_report.h"
#include "lab/error_fit.h"
#include "lab/judgement_summary.h"
#include "lab/network_report.h"
#include "lab/offset_fit.h"
#include "lab/people.h"
#include "lab/table_fit.h"
#include "lab/tracking_report.h"
#include "review/rule_coverage.h"
#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <iterator>
#include <memory>

namespace jl::cli
{
namespace
{

struct ValidateOptions {
    bool quick = false, analytic = false, follow = false, judgement = false, rendered = false,
         networks = false, json = false;
    std::uint32_t seed = 20260;
    int cases = 0, skip = 0;
    std::vector<std::uint32_t> also; ///< another seed and how many of its cases
    std::string model = "auto", cache, samples, csv, offsets, errors, accuracy, again, page, people;
};

std::filesystem::path cacheFolder(const ValidateOptions& o)
{
    if (!o.cache.empty()) return o.cache;
    if (const char* home = std::getenv("XDG_CACHE_HOME"))
        return std::filesystem::path(home) / "jolly-lantern/validation";
    const char* home = std::getenv("HOME");
    return std::filesystem::path(home ? home : "/tmp") / ".cache/jolly-lantern/validation";
}

/// Every single sample, for a closer look at where errors come from.
Result<Done> writeSamples(const std::vector<CaseOutcome>& outcomes, const std::string& file)
{
    std::FILE* out = std::fopen(file.c_str(), "w");
    const Error unwritable{Error::Kind::BadInput, "the samples cannot be written", file,
                           "Check that the folder exists and that the disk has room."};
    if (!out) return unwritable;
    std::fprintf(out, "form,school,view,body,lead,seed,posture,phase,measure,seen,value,u,truth,time_error,"
                      "azimuth_error\n");
    for (const CaseOutcome& o : outcomes)
        for (const ValidationSample& s : o.samples)
            std::fprintf(out, "%s,%s,%s,%zu,%c,%u,%s,%s,%s,%d,%.5f,%.5f,%.5f,%.3f,%.2f\n",
                         o.request.form.c_str(), o.request.school.c_str(), s.view.c_str(), o.request.body,
                         o.request.lead == Side::Left ? 'L' : 'R', o.request.seed, s.posture.c_str(),
                         s.phase.c_str(), std::string(measureInfo(s.value.measure).key).c_str(),
                         s.value.seen() ? 1 : 0, s.value.value, s.value.u, s.truth, s.keyMomentError,
                         o.azimuthError);
    for (const CaseOutcome& o : outcomes)
        for (const PhaseSample& s : o.phaseSamples)
            std::fprintf(out, "%s,%s,%s,%zu,%c,%u,%s,%s,%s,%d,%.5f,%.5f,%.5f,,\n", o.request.form.c_str(),
                         o.request.school.c_str(), s.view.c_str(), o.request.body,
                         o.request.lead == Side::Left ? 'L' : 'R', o.request.seed, s.posture.c_str(),
                         s.phase.c_str(), std::string(phaseMeasureInfo(s.value.measure).key).c_str(),
                         s.value.isGiven() ? 1 : 0, s.value.value, s.value.u, s.truth);
    const bool whole = std::ferror(out) == 0;
    return std::fclose(out) == 0 && whole ? Result<Done>(Done{}) : unwritable;
}

/// Outcomes of a set of cases, and of the pairs that were filmed at once read together.
struct Results {
    std::vector<CaseOutcome> single, together;
    int failed = 0;

    std::vector<CaseOutcome> all() const
    {
        std::vector<CaseOutcome> both = single;
        both.insert(both.end(), together.begin(), together.end());
        return both;
    }
};

void measureTogether(const LabData& data, Results& results, bool onlyTriangulated)
{
    const std::size_t n = results.single.size();
    if (n < 2 || !filmedAtOnce(results.single[n - 2].request, results.single[n - 1].request)) return;
    const CaseOutcome &a = results.single[n - 2], &b = results.single[n - 1];
    auto pair = pairOutcome(data, a, b, onlyTriangulated);
    if (pair)
        results.together.push_back(std::move(*pair));
    else
        std::fprintf(stderr, "pair (%s, %s and %s, seed %u): %s\n", a.request.form.c_str(),
                     a.request.view.c_str(), b.request.view.c_str(), a.request.seed,
                     pair.error().what.c_str());
}

Results runAll(const LabData& data, const std::vector<ValidationCase>& cases, const NetworkChoice& networks,
               const ValidateOptions& o)
{
    const Progress progress = progressOnStderr("validating");
    Results results;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        progress(static_cast<double>(i) / static_cast<double>(cases.size()));
        auto outcome = o.follow     ? followCase(data, cases[i], networks, cacheFolder(o))
                       : o.analytic ? runAnalyticCase(data, cases[i])
                                    : runCase(data, cases[i], networks, cacheFolder(o));
        if (!outcome) {
            ++results.failed;
            std::fprintf(stderr, "case %zu (%s %s, seed %u): %s\n", i, cases[i].form.c_str(),
                         cases[i].view.c_str(), cases[i].seed, outcome.error().message().c_str());
            continue;
        }
        results.single.push_back(std::move(*outcome));
        if (!o.quick && !o.follow) measureTogether(data, results, !o.accuracy.empty());
        if (results.single.size() < 2) continue;
        CaseOutcome& done = results.single[results.single.size() - 2]; // nobody needs its clip any more
        done.reading.reset();
        if (o.analytic) done.track.frames.clear();
    }
    progress(1);
    return results;
}

int runJudgement(const LabData& data, const ValidateOptions& o)
{
    const int count = o.cases > 0 ? o.cases : 200;
    const JudgementReport report =
        judgeCases(data, judgementCases(data, o.seed, count), progressOnStderr("judging"));
    if (!o.csv.empty()) {
        const auto row = JudgementSummary::of(report, "drawn", std::to_string(o.seed));
        if (const auto written = writeText(o.csv, judgementCsv({row})); !written)
            return fail(written.error());
    }
    std::printf("%s", (o.json ? judgementJson(report) : judgementText(report)).c_str());
    return 0;
}

/// What is claimed in the rendered clips of the full set.
int runRenderedJudgement(const LabData& data, const NetworkChoice& networks, const ValidateOptions& o)
{
    const auto cases = fullCases(data, o.seed, o.cases > 0 ? o.cases : 300);
    const RenderedJudgement r =
        judgeRendered(data, cases, networks, cacheFolder(o), progressOnStderr("judging"));
    if (!o.csv.empty()) {
        const std::string seed = std::to_string(o.seed);
        const auto csv = judgementCsv({JudgementSummary::of(r.alone, "alone", seed),
                                       JudgementSummary::of(r.together, "together", seed)});
        if (const auto written = writeText(o.csv, csv); !written) return fail(written.error());
    }
    if (o.json)
        std::printf("{\"alone\":%s,\"together\":%s}\n", judgementJson(r.alone).c_str(),
                    judgementJson(r.together).c_str());
    else
        std::printf("Rendered clips, each by itself\n%s\nTwo that film at once\n%s",
                    judgementText(r.alone).c_str(), judgementText(r.together).c_str());
    return 0;
}

/// The quick set with every choice of networks.
int runNetworks(const LabData& data, ValidateOptions o)
{
    o.quick = true;
    const auto cases = quickCases(data, o.seed, o.cases > 0 ? o.cases : 24);
    std::vector<NetworkAccuracy> all;
    for (const char* name : {"lite", "full", "heavy", "full+heavy"}) {
        const auto networks = networksFromName(name);
        if (!networks) return fail(networks.error());
        all.push_back({networks->name(), accuracyRows(runAll(data, cases, *networks, o).single)});
    }
    if (!o.csv.empty())
        if (const auto written = writeText(o.csv, networksCsv(all)); !written) return fail(written.error());
    if (o.json)
        std::printf("{\"cases\":%zu,\"choices\":%s}\n", cases.size(), networksJson(all).c_str());
    else
        std::printf("%zu rendered cases with each choice of networks\n%s", cases.size(),
                    networksText(all).c_str());
    return 0;
}

/// Clips of figures that this program did not draw.
int runPeople(const LabData& data, const NetworkChoice& networks, const ValidateOptions& o)
{
    const auto report =
        peopleReport(data, o.people, networks, cacheFolder(o), progressOnStderr("judging figures"));
    if (!report) return fail(report.error());
    std::printf("%s", (o.json ? peopleJson(*report) + "\n" : peopleText(*report)).c_str());
    return 0;
}

/// The page of accuracy and the table of rules beside the tables.
int writePage(const std::filesystem::path& folder)
{
    const auto page = accuracyPage(folder);
    if (!page) return fail(page.error());
    if (const auto written = writeText(folder / "README.md", *page); !written) return fail(written.error());
    const auto data = ShippedData::load(dataFolder());
    if (!data) return fail(data.error());
    const auto unjudged = loadUnjudged(dataFolder());
    if (!unjudged) return fail(unjudged.error());
    const auto written = writeText(folder / "rules.md",
                                   "# What is judged where\n\nBy kind of stance and family of measures: the "
                                   "number of rules. Below, the rules of every measure.\n\n" +
                                       coverageTable(data->standards, data->rules, *unjudged));
    return written ? 0 : fail(written.error());
}

int runValidate(const ValidateOptions& o)
{
    if (!o.page.empty()) return writePage(o.page);
    auto data = LabData::load(dataFolder());
    if (!data) return fail(data.error());
    if (o.networks) return runNetworks(*data, o);
    if (o.analytic) data = data->withoutBias();
    if (!o.accuracy.empty()) data->tables.accuracy = {}; // the table is fitted to plain readings
    if (!o.again.empty()) data->tables.accuracy = data->tables.accuracy.withoutBodies();
    if (o.judgement && !o.rendered) return runJudgement(*data, o);
    const auto networks = networksFromName(o.model);
    if (!networks) return fail(networks.error());
    if (!o.people.empty()) return runPeople(*data, *networks, o);
    if (o.judgement) return runRenderedJudgement(*data, *networks, o);
    const int count = o.cases > 0 ? o.cases : o.quick ? 40 : o.analytic ? 2000 : 300;
    auto cases = o.follow  ? followedCases(*data)
                 : o.quick ? quickCases(*data, o.seed, count)
                           : fullCases(*data, o.seed, count);
    cases.erase(cases.begin(), cases.begin() + std::min<std::ptrdiff_t>(o.skip, std::ssize(cases)));
    if (o.also.size() == 2)
        std::ranges::move(fullCases(*data, o.also[0], static_cast<int>(o.also[1])),
                          std::back_inserter(cases));
    const Results results = runAll(*data, cases, *networks, o);
    const std::vector<CaseOutcome> outcomes = results.all();
    const auto rows = accuracyRows(outcomes);
    if (!o.samples.empty())
        if (const auto written = writeSamples(outcomes, o.samples); !written) return fail(written.error());
    if (!o.csv.empty())
        if (const auto written = writeText(o.csv, accuracyCsv(rows)); !written) return fail(written.error());
    if (!o.offsets.empty()) {
        const auto table = fitOffsets(*data, results.single);
        if (!table) return fail(table.error());
        if (const auto written = writeText(o.offsets, *table); !written) return fail(written.error());
    }
    if (!o.errors.empty()) {
        const auto table = fitErrors(*data, results.single);
        if (!table) return fail(table.error());
        if (const auto written = writeText(o.errors, table->json()); !written) return fail(written.error());
    }
    if (!o.accuracy.empty())
        if (const auto written = writeText(o.accuracy, fitAccuracy(outcomes)); !written)
            return fail(written.error());
    if (!o.again.empty()) {
        const auto table =
            refitAccuracy(dataFolder() / "measure/accuracy.json", data->tables.accuracy, outcomes);
        if (!table) return fail(table.error());
        if (const auto written = writeText(o.again, *table); !written) return fail(written.error());
    }
    const auto followed = followedPostures(*data, results.single);
    if (!followed) return fail(followed.error());
    if (o.json)
        std::printf(
            "{\"cases\":%zu,\"failed\":%d,\"pairs\":%zu,\"model\":\"%s\",\"rows\":%s,\"followed\":%s}\n",
            cases.size(), results.failed, results.together.size(), networks->name().c_str(),
            accuracyJson(rows).c_str(), followedJson(*followed).c_str());
    else
        std::printf("%zu %s cases with %s, %d failed, %zu pairs read together; errors at the key moments "
                    "that ask for the measure\n%s\n%s",
                    cases.size(), o.analytic ? "analytic" : "rendered", networks->name().c_str(),
                    results.failed, results.together.size(), accuracyText(rows).c_str(),
                    followedText(*followed).c_str());
    return 0;
}

} // namespace

void addValidate(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<ValidateOptions>();
    CLI::App* c = program.add_subcommand(
        "validate", "Accuracy against rendered performances whose truth is known, per measure and view.");
    c->add_flag("--quick", o->quick,
                "40 cases of one section and one sideways posture instead of 300 over all postures");
    CLI::Option* analytic =
        c->add_flag("--analytic", o->analytic,
                    "Without rendering: exact points with the networks' usual errors; thousands of cases");
    c->add_flag("--follow", o->follow,
                "Only how well bodies are followed, in one clip of every form and posture");
    CLI::Option* judgement =
        c->add_flag("--judgement", o->judgement,
                    "How well 200 performances are lined up and judged: key moments, order, faults, causes");
    c->add_flag("--rendered", o->rendered, "With --judgement: 300 rendered clips instead, and pairs of them")
        ->needs(judgement)
        ->excludes(analytic);
    c->add_flag("--networks", o->networks,
                "24 cases of the quick set with every choice of networks, side by side");
    c->add_flag("--json", o->json, "Print JSON");
    c->add_option("--seed", o->seed, "Seed of the set of cases")->capture_default_str();
    c->add_option("--cases", o->cases, "Number of cases")->check(CLI::Range(0, 100000));
    c->add_option("--skip", o->skip, "Leave out so many of them from the first on, such as those fitted on")
        ->check(CLI::Range(0, 100000));
    c->add_option("--also", o->also, "So many cases of the full set of another seed too")
        ->type_name("SEED CASES")
        ->expected(2);
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("--cache", o->cache, "Folder for extracted tracks");
    c->add_option("--samples", o->samples, "Write every value with its truth as CSV");
    c->add_option("--csv", o->csv, "Write the table as CSV");
    c->add_option("--people", o->people,
                  "Folder with clips of other figures, NAME.mp4, and their truth, NAME.json, instead")
        ->check(CLI::ExistingDirectory);
    c->add_option("--page", o->page,
                  "Only write README.md from the tables in this folder (docs/accuracy), without measuring");
    c->add_option("--fit-offsets", o->offsets,
                  "Write the landmark offsets that fit this set (for data/measure)");
    c->add_option("--fit-errors", o->errors,
                  "Write the networks' errors by view as this set shows them (for data/measure)");
    c->add_option("--fit-accuracy", o->accuracy,
                  "Write the bias and floor table of this set (for data/measure), from readings without one");
    c->add_option("--refit-accuracy", o->again,
                  "Write the table in use with its rows fitted again to values read with it");
    c->callback([o, &exitCode] { exitCode = runValidate(*o); });
}

} // namespace jl::cli
