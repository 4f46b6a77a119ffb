#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "exchange/hint_files.h"
#include "exchange/marker_file.h"
#include "exchange/measures_file.h"
#include "exchange/profile_file.h"
#include "exchange/track_file.h"
#include "pipeline/shipped_data.h"
#include <cstdio>
#include <memory>

namespace jl::cli
{
namespace
{

struct MeasureOptions {
    std::string mapping, track, form = "sparrow-tail", school = "upright-broad", profile, out, side = "auto",
                                calibration, repairs;
};

int runMeasure(const MeasureOptions& o)
{
    const auto data = ShippedData::load(dataFolder());
    if (!data) return fail(data.error());
    PersonProfile person;
    if (!o.profile.empty()) {
        const auto read = readProfile(o.profile);
        if (!read) return fail(read.error());
        person = read->body;
    }
    const auto models = data->models(
        o.form, o.school,
        o.side == "auto" ? std::nullopt : std::optional(o.side == "L" ? Side::Left : Side::Right));
    if (!models) return fail(models.error());
    if (!o.mapping.empty()) {
        auto motion = readMarkers(o.track, o.mapping);
        if (!motion) return fail(motion.error());
        const auto reading = lineUpMotion(std::move(*motion), *models, person);
        if (!reading) return fail(reading.error());
        const auto written = writeText(o.out, measuresCsv(*reading, person));
        return written ? 0 : fail(written.error());
    }
    const auto track = readTrack(o.track);
    if (!track) return fail(track.error());
    const auto known = clipKnowledge(o.calibration, o.repairs);
    if (!known) return fail(known.error());
    const auto clip =
        readClip(withRepairs(*track, known->repairs), *models, person, data->tables, {}, known->hints);
    if (!clip) return fail(clip.error());
    sayWhatIsLeftOut(o.repairs, repairsPassedOver(*track, known->repairs));
    sayWhatIsLeftOut(o.calibration, hintsLeftOut(clip->camera));
    const auto written = writeText(o.out, measuresCsv(*clip));
    return written ? 0 : fail(written.error());
}

} // namespace

void addMeasure(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<MeasureOptions>();
    CLI::App* c = program.add_subcommand("measure", "All measures of a track, frame by frame, as CSV.");
    c->add_option("track", o->track, "Track made by extract, or marker data of motion capture")->required();
    c->add_option("--markers", o->mapping, "The track is TRC marker data; JSON that maps its markers");
    c->add_option("--form", o->form, "Form that is performed")->capture_default_str();
    c->add_option("--school", o->school, "School")->capture_default_str();
    c->add_option("--side", o->side, "Leading side, L, R or auto")
        ->check(CLI::IsMember({"L", "R", "auto"}))
        ->capture_default_str();
    c->add_option("--profile", o->profile, "JSON with height and foot_length in metres");
    c->add_option("--calibration", o->calibration, "JSON with what is known of the room or camera");
    c->add_option("--repairs", o->repairs, "JSON with points put in place by hand");
    c->add_option("-o,--out", o->out, "CSV file to write")->required();
    c->callback([o, &exitCode] { exitCode = runMeasure(*o); });
}

} // namespace jl::cli
