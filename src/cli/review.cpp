#include "base/json_file.h"
#include "base/paths.h"
#include "cli/commands.h"
#include "exchange/hint_files.h"
#include "exchange/plan_calendar.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "pipeline/clip_source.h"
#include "pipeline/reference_cut.h"
#include <chrono>
#include <cstdio>
#include <memory>

namespace jl::cli
{
namespace
{

struct Options {
    std::string student, second, reference = "builtin", form = "sparrow-tail", school = "upright-broad",
                                 level = "forming", profile, referenceProfile, out, model = "auto",
                                 side = "auto", calibration, repairs, standards, referenceCut;
    std::vector<std::string> previous;
    std::string plan, firstDay, yardstick = "reference";
    double minutes = 15;
    bool json = false;
};

/// A day as YYYY-MM-DD; today where nothing is given.
Result<std::chrono::sys_days> dayFrom(const std::string& text)
{
    using namespace std::chrono;
    if (text.empty()) return floor<days>(system_clock::now());
    int y = 0;
    unsigned m = 0, d = 0;
    char rest = 0;
    const bool read = std::sscanf(text.c_str(), "%d-%u-%u%c", &y, &m, &d, &rest) == 3;
    const year_month_day day{year{y}, month{m}, std::chrono::day{d}};
    if (!read || !day.ok())
        return Error{Error::Kind::WrongUse, "\"" + text + "\" is no day", "--start",
                     "Give it as 2026-03-14."};
    return sys_days(day);
}

/// The week's practice if everything proposed is accepted.
Result<Done> writePlan(const ShippedData& data, const Options& o, const Review& review)
{
    const auto first = dayFrom(o.firstDay);
    if (!first) return first.error();
    PlanRequest request;
    request.first = *first;
    request.minutesPerDay = o.minutes;
    request.section = data.standards.form(o.form)->name;
    for (const Correction& c : review.teach)
        request.drills.push_back(drillOf(c, *data.rules.find(c.fault), *first));
    const auto plan = planPractice(request);
    if (!plan) return plan.error();
    return writeCalendar(*plan, "Practice " + request.section, o.plan);
}

Result<ClipReading> reading(const ShippedData& data, const Options& o, const std::string& clip,
                            const StudentProfile& person, std::optional<Side> side, const char* what,
                            const ClipKnowledge& known = {})
{
    const auto networks = networksFromName(o.model);
    if (!networks) return networks.error();
    const auto models = data.models(o.form, o.school, side, person.limits);
    if (!models) return models.error();
    const auto track = trackOf(clip, *networks, progressOnStderr(std::string("extracting ") + what));
    if (!track) return track.error();
    sayWhatIsLeftOut(o.repairs, repairsPassedOver(*track, known.repairs));
    auto read =
        readClip(withRepairs(*track, known.repairs), *models, person.body, data.tables, {}, known.hints);
    if (read) return read;
    Error error = withLikelierForm(read.error(), data, *track, o.school, o.form);
    error.where = clip;
    return error;
}

/// The reference cut where a file says.
Result<Done> cutAsGiven(const ShippedData& data, const Options& o, std::optional<ClipReading>& reference)
{
    const auto cut = readCut(o.referenceCut);
    if (!cut) return cut.error();
    if (!reference || cut->fit.form != o.form)
        return Error{Error::Kind::WrongUse,
                     !reference ? "there is no recorded reference to cut"
                                : "this is a cut of \"" + cut->fit.form + "\", not of \"" + o.form + "\"",
                     o.referenceCut, "Name the clip with --reference and its form with --form."};
    auto done = readAsCut(*reference, cut->postures, data.tables);
    if (done) return done;
    Error error = done.error();
    error.where = o.referenceCut;
    return error;
}

Result<StudentProfile> profileFrom(const std::string& file)
{
    if (file.empty()) return StudentProfile{};
    return readProfile(file);
}

void printProgress(const ProgressSince& progress, const FaultRules& rules)
{
    std::printf("Since last time%s%s\n",
                progress.incomparable.empty() ? ":" : " cannot be told: ", progress.incomparable.c_str());
    for (const FaultChange& f : progress.faults)
        std::printf("- %s: %s\n", rules.find(f.fault)->name.c_str(), f.words.c_str());
}

int run(const Options& o)
{
    const auto data = ShippedData::load(dataFolder(), o.standards);
    if (!data) return fail(data.error());
    const auto person = profileFrom(o.profile), teacher = profileFrom(o.referenceProfile);
    if (!person) return fail(person.error());
    if (!teacher) return fail(teacher.error());
    std::optional<Side> side;
    if (o.side != "auto") side = o.side == "L" ? Side::Left : Side::Right;

    const auto known = clipKnowledge(o.calibration, o.repairs);
    if (!known) return fail(known.error());
    auto student = reading(*data, o, o.student, *person, side, "the student", *known);
    if (!student) return fail(student.error());
    std::optional<ClipReading> second, reference;
    if (!o.second.empty()) {
        auto read = reading(*data, o, o.second, *person, student->lead(), "the second view");
        if (!read) return fail(read.error());
        second = std::move(*read);
        const auto models = data->models(o.form, o.school, student->lead(), person->limits);
        if (models) agreeOnOrder(*student, *second, *models, data->tables);
    }
    if (o.reference != "builtin") {
        auto read = reading(*data, o, o.reference, *teacher, {}, "the reference");
        if (!read) return fail(read.error());
        reference = std::move(*read);
    }
    if (!o.referenceCut.empty()) {
        const auto done = cutAsGiven(*data, o, reference);
        if (!done) return fail(done.error());
    }
    std::optional<PairReading> together;
    if (second) {
        auto pair = readTogether(*student, *second, data->tables);
        if (pair)
            together = std::move(*pair);
        else
            std::fprintf(stderr, "%s; each view is read by itself\n", pair.error().what.c_str());
    }
    std::vector<ReviewRecord> earlier;
    for (const std::string& file : o.previous) {
        auto record = readRecord(file);
        if (!record) return fail(record.error());
        earlier.push_back(std::move(*record));
    }
    ReviewRequest request{o.form,
                          o.school,
                          o.level,
                          &*student,
                          second ? &*second : nullptr,
                          reference ? &*reference : nullptr,
                          together ? &*together : nullptr,
                          *yardstickFromName(o.yardstick),
                          person->limits,
                          {lessonsOf(earlier), {}, {}}};
    auto review = makeReview(data->standards, data->rules, request);
    if (!review) return fail(review.error());
    review->doubt = formDoubt(*data, *student, o.school, o.form);
    if (!review->doubt.empty()) std::fprintf(stderr, "%s\n", review->doubt.c_str());
    std::optional<ProgressSince> progress;
    if (!earlier.empty()) progress = progressSince(earlier.back(), recordOf(*review), data->rules);
    const std::string text = reviewJson(*review, progress ? &*progress : nullptr);
    if (!o.plan.empty()) {
        const auto planned = writePlan(*data, o, *review);
        if (!planned) return fail(planned.error());
    }
    if (!o.out.empty()) {
        const auto written = writeText(o.out, text);
        if (!written) return fail(written.error());
    }
    if (o.json || o.out.empty())
        std::printf("%s\n", text.c_str());
    else {
        std::printf("%zu findings, %zu to teach\n", review->findings.size(), review->teach.size());
        for (const Correction& c : review->teach)
            std::printf("- %s: %s\n  now, because %s\n", c.title.c_str(), c.chainText.c_str(),
                        c.whyNow.c_str());
        if (progress) printProgress(*progress, data->rules);
    }
    return 0;
}

} // namespace

void addReview(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<Options>();
    CLI::App* c = program.add_subcommand("review", "Review a student's clip against a reference.");
    c->add_option("--student", o->student, "Clip or track of the student")->required();
    c->add_option("--second", o->second, "Clip or track of the same student from another view");
    c->add_option("--reference", o->reference, "Clip or track of the reference, or builtin")
        ->capture_default_str();
    c->add_option("--reference-cut", o->referenceCut,
                  "JSON that \"cut\" wrote of the reference, with what you changed in it");
    c->add_option("--form", o->form, "Form that is performed")->capture_default_str();
    c->add_option("--side", o->side, "Leading side, L, R or auto")
        ->check(CLI::IsMember({"L", "R", "auto"}))
        ->capture_default_str();
    c->add_option("--school", o->school, "School")->capture_default_str();
    c->add_option("--level", o->level, "Level of the student")->capture_default_str();
    c->add_option("--profile", o->profile,
                  "JSON with the student's height and foot_length in metres, and limits");
    c->add_option("--reference-profile", o->referenceProfile, "The same for a recorded reference");
    c->add_option("--calibration", o->calibration,
                  "JSON with what is known of the room or camera of the student's clip");
    c->add_option("--repairs", o->repairs, "JSON with points of the student put in place by hand");
    c->add_option("--by", o->yardstick, "Judge by reference, standard or both")
        ->check(CLI::IsMember({"reference", "standard", "both"}))
        ->capture_default_str();
    c->add_option("--previous", o->previous,
                  "Earlier review of the same student, as JSON; several from the oldest to the newest");
    c->add_option("--plan", o->plan, "Week of practice to write as iCalendar");
    c->add_option("--minutes", o->minutes, "Minutes of practice a day")->capture_default_str();
    c->add_option("--start", o->firstDay, "First day of practice, YYYY-MM-DD; today if not given");
    c->add_option("--standards", o->standards, "Folder with own postures, schools, forms and faults")
        ->check(CLI::ExistingDirectory);
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("-o,--out", o->out, "Review to write as JSON");
    c->add_flag("--json", o->json, "Print the review as JSON");
    c->callback([o, &exitCode] { exitCode = run(*o); });
}

} // namespace jl::cli
