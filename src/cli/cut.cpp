#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "pipeline/clip_source.h"
#include "pipeline/reference_cut.h"
#include <cstdio>
#include <memory>

namespace jl::cli
{
namespace
{

struct CutOptions {
    std::string clip, form, school = "upright-broad", model = "auto", out;
};

int runCut(const CutOptions& o)
{
    const auto data = ShippedData::load(dataFolder());
    if (!data) return fail(data.error());
    const auto networks = networksFromName(o.model);
    if (!networks) return fail(networks.error());
    // What cannot be performed is said before the clip is gone through.
    const auto models = data->models(o.form.empty() ? data->standards.forms.front().id : o.form, o.school);
    if (!models) return fail(models.error());
    const auto track = trackOf(o.clip, *networks, progressOnStderr("extracting"));
    if (!track) return fail(track.error());
    const auto cut =
        proposeCut(*data, *track, o.school, o.form.empty() ? std::nullopt : std::optional(o.form),
                   progressOnStderr("comparing with every form"));
    if (!cut) return fail(cut.error());
    if (const auto written = writeText(o.out, cutJson(*cut)); !written) return fail(written.error());
    std::printf("%s: %zu postures, %zu of the form not found%s%s\n", cut->fit.form.c_str(),
                cut->postures.size(), cut->leftOut.size(),
                cut->others.empty() ? "" : "; the next likeliest form is ",
                cut->others.empty() ? "" : cut->others.front().form.c_str());
    return 0;
}

} // namespace

void addCut(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<CutOptions>();
    CLI::App* c = program.add_subcommand(
        "cut", "Propose where a new reference is to be cut into postures and phases, with how sure each is.");
    c->add_option("clip", o->clip, "Clip, or track made by extract")->required();
    c->add_option("--form", o->form, "Form that is performed; every form is tried where none is named");
    c->add_option("--school", o->school, "School")->capture_default_str();
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("-o,--out", o->out, "JSON file to write")->required();
    c->callback([o, &exitCode] { exitCode = runCut(*o); });
}

} // namespace jl::cli
