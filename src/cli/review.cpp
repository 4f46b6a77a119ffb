#include "base/day.h"
#include "base/json_file.h"
#include "base/paths.h"
#include "cli/bundle_output.h"
#include "cli/commands.h"
#include "cli/student_output.h"
#include "exchange/hint_files.h"
#include "exchange/plan_calendar.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "pipeline/clip_source.h"
#include "pipeline/make_review.h"
#include <cstdio>
#include <memory>

namespace jl::cli
{
namespace
{

struct ReviewOptions {
    std::string student, second, reference = "builtin", form = "sparrow-tail", school = "upright-broad",
                                 level = "forming", profile, referenceProfile, out, model = "auto",
                                 side = "auto", calibration, repairs, standards, referenceCut;
    std::vector<std::string> previous;
    std::string plan, firstDay, yardstick = "reference";
    double minutes = 15;
    bool json = false;
    StudentOutput forStudent;
    BundleOutput bundle;
    std::string bundleIn;
};

/// A day as YYYY-MM-DD; today where nothing is given.
Result<std::chrono::sys_days> dayOrToday(const std::string& text)
{
    if (text.empty()) return today();
    if (const auto day = dayFrom(text)) return *day;
    return Error{Error::Kind::WrongUse, "\"" + text + "\" is no day", "--start", "Give it as 2026-03-14."};
}

/// The week's practice if everything proposed is accepted.
Result<std::vector<PlannedDay>> planOf(const ShippedData& data, const ReviewOptions& o, const Review& review,
                                       std::chrono::sys_days first)
{
    PlanRequest request;
    request.first = first;
    request.minutesPerDay = o.minutes;
    request.section = data.standards.form(o.form)->name;
    for (const Correction& c : review.teach)
        request.drills.push_back(drillOf(c, data.rules, first));
    return planPractice(request);
}

/// Calendar, slips, captions and clips, as far as they are asked for.
Result<Done> writeAllForStudent(const ShippedData& data, const ReviewOptions& o,
                                const FinishedReview& finished)
{
    const auto first = dayOrToday(o.firstDay);
    if (!first) return first.error();
    SlipRequest request{
        o.forStudent.name, data.standards.form(o.form)->name, *first, asProposed(finished.review), {}};
    if (!o.plan.empty()) {
        auto plan = planOf(data, o, finished.review, *first);
        if (!plan) return plan.error();
        const auto written = writeCalendar(*plan, "Practice " + request.form, o.plan);
        if (!written) return written.error();
        request.practice = std::move(*plan);
    }
    const PictureFiles files{namesTrack(o.student) ? std::string() : o.student,
                             namesTrack(o.reference) || o.reference == "builtin" ? std::string()
                                                                                 : o.reference};
    return writeForStudent(
        data, o.forStudent, finished,
        slipOf(finished.review, data.rules, finished.progress ? &*finished.progress : nullptr, request),
        files);
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
        std::printf("- %s: %s\n", rules.find(f.fault)->plainName().c_str(), f.words.c_str());
}

/// One of the clips named, with its profile and without its track.
Result<ReviewClip> clipFrom(const std::string& clip, const std::string& profile)
{
    const auto person = profileFrom(profile);
    if (!person) return person.error();
    return ReviewClip{{}, person->body, person->limits.inForceOn(today()), {}, clip};
}

/// Everything that the options name, without tracks.
Result<ReviewRequest> requestFrom(const ReviewOptions& o)
{
    ReviewRequest request;
    request.form = o.form;
    request.school = o.school;
    request.level = o.level;
    request.yardstick = *yardstickFromName(o.yardstick);
    if (o.side != "auto") request.side = o.side == "L" ? Side::Left : Side::Right;
    auto student = clipFrom(o.student, o.profile);
    if (!student) return student.error();
    request.student = std::move(*student);
    if (!o.second.empty()) request.second = ReviewClip{{}, {}, {}, {}, o.second};
    auto reference = clipFrom(o.reference, o.referenceProfile);
    if (!reference) return reference.error();
    if (o.reference != "builtin") request.reference = std::move(*reference);
    auto known = clipKnowledge(o.calibration, o.repairs);
    if (!known) return known.error();
    request.student.known = std::move(*known);
    if (!o.referenceCut.empty()) {
        auto cut = readCut(o.referenceCut);
        if (!cut) return cut.error();
        request.referenceCut = std::move(*cut);
    }
    for (const std::string& file : o.previous) {
        auto record = readRecord(file);
        if (!record) return record.error();
        request.earlier.push_back(std::move(*record));
    }
    request.memory.faults = lessonsOf(request.earlier);
    return request;
}

/// Reads or extracts the tracks of all clips of a request.
Result<Done> fillTracks(ReviewRequest& request, const std::string& model)
{
    const auto networks = networksFromName(model);
    if (!networks) return networks.error();
    const auto fill = [&](ReviewClip& clip, const std::string& what) -> Result<Done> {
        auto track = trackOf(clip.source, *networks, progressOnStderr("extracting " + what));
        if (!track) return track.error();
        clip.track = std::move(*track);
        return Done{};
    };
    auto done = fill(request.student, "the student");
    if (done && request.second) done = fill(*request.second, "the second view");
    if (done && request.reference) done = fill(*request.reference, "the reference");
    return done;
}

/// What somebody at the terminal reads.
void printReview(const FinishedReview& finished, const FaultRules& rules)
{
    const Review& review = finished.review;
    std::printf("%zu findings, %zu to teach\n", review.findings.size(), review.teach.size());
    for (const Correction& c : review.teach)
        std::printf("- %s: %s\n  now, because %s\n", c.title.c_str(), c.chainText.c_str(), c.whyNow.c_str());
    if (finished.progress) printProgress(*finished.progress, rules);
}

/// The review as JSON into its file, or where it is asked for, to the terminal.
Result<Done> writeReview(const ReviewOptions& o, const std::string& text)
{
    if (!o.out.empty()) {
        const auto written = writeText(o.out, text);
        if (!written) return written.error();
    }
    if (o.json || o.out.empty()) std::printf("%s\n", text.c_str());
    return Done{};
}

int runBundleReview(const ShippedData& data, const ReviewOptions& o)
{
    const auto review = reviewOfBundle(data, o.bundleIn);
    if (!review) return fail(review.error());
    const auto written = writeReview(o, *review);
    return written ? 0 : fail(written.error());
}

/// Whether everything that is asked for can be written and made, as far as that is known without tracks.
Result<Done> check(const ShippedData& data, const ReviewOptions& o, const ReviewRequest& request)
{
    auto sound = checkStudentOutput(o.forStudent);
    if (sound) sound = checkBundleOutput(o.bundle, request);
    if (sound) sound = checkRequest(data.standards, request);
    return sound;
}

int runReview(const ReviewOptions& o)
{
    const auto data = ShippedData::load(dataFolder(), o.standards);
    if (!data) return fail(data.error());
    if (!o.bundleIn.empty()) return runBundleReview(*data, o);
    auto request = requestFrom(o);
    if (!request) return fail(request.error());
    const auto sound = check(*data, o, *request);
    if (!sound) return fail(sound.error());
    const auto filled = fillTracks(*request, o.model);
    if (!filled) return fail(filled.error());
    const auto finished = makeReview(*data, o.bundle.file.empty() ? std::move(*request) : *request);
    if (!finished) return fail(finished.error());
    const Review& review = finished->review;
    for (const std::string& words : finished->leftOut)
        sayWhatIsLeftOut(o.student, words);
    if (!review.doubt.empty()) std::fprintf(stderr, "%s\n", review.doubt.c_str());
    const std::string text = reviewJson(review, finished->progress ? &*finished->progress : nullptr);
    auto written = writeAllForStudent(*data, o, *finished);
    if (written) written = writeBundleOf(o.bundle, std::move(*request), text, o.forStudent.name);
    if (written) written = writeReview(o, text);
    if (!written) return fail(written.error());
    if (!o.json && !o.out.empty()) printReview(*finished, data->rules);
    return 0;
}

} // namespace

void addReview(CLI::App& program, int& exitCode)
{
    auto o = std::make_shared<ReviewOptions>();
    CLI::App* c = program.add_subcommand("review", "Review a student's clip against a reference.");
    CLI::Option_group* source = c->add_option_group("What is reviewed");
    source->add_option("--student", o->student, "Clip or track of the student");
    source->add_option("--bundle-in", o->bundleIn,
                       "Bundle whose review is given back, with -o or --json; nothing else is used");
    source->require_option(1);
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
    addStudentOutput(*c, o->forStudent);
    addBundleOutput(*c, o->bundle);
    c->add_option("--standards", o->standards, "Folder with own postures, schools, forms and faults")
        ->check(CLI::ExistingDirectory);
    c->add_option("--model", o->model, "lite, full, heavy or auto")->capture_default_str();
    c->add_option("-o,--out", o->out, "Review to write as JSON");
    c->add_flag("--json", o->json, "Print the review as JSON");
    c->callback([o, &exitCode] { exitCode = runReview(*o); });
}

} // namespace jl::cli
