#include "cli/student_output.h"
#include "base/json_file.h"
#include "cli/drawing.h"
#include "exchange/measures_file.h"

namespace jl::cli
{
namespace
{

Result<Done> writeSlips(const StudentOutput& output, const ReviewScene& scene, const Slip& slip,
                        const PictureFiles& pictures)
{
    if (output.slips.empty()) return Done{};
    auto drawn = slipPictures(scene, slip, pictures, Theme::paper());
    if (!drawn) return drawn.error();
    const SlipPage page(slip, std::move(*drawn), Theme::paper());
    for (const std::string& file : output.slips) {
        const auto format = slipFormatOf(file);
        if (!format) return format.error();
        const auto written =
            writeSlip(page, *format, output.paper == "A4" ? PaperSize::A4 : PaperSize::A5, file);
        if (!written) return written.error();
    }
    return Done{};
}

Result<PairClipRequest> clipRequest(const StudentOutput& output, const Review& review, const Slip& slip)
{
    PairClipRequest request;
    request.style = {output.layout == "over" ? PairLayout::Over : PairLayout::Beside,
                     output.shape == "portrait" ? PairShape::Portrait : PairShape::Landscape, output.breath};
    request.timing = output.timing;
    if (output.posture == 0) {
        request.passages = passagesOf(slip, review);
        return request;
    }
    auto whole = passageOf(review, static_cast<std::size_t>(output.posture) - 1);
    if (!whole) return whole.error();
    request.passages = {std::move(*whole)};
    return request;
}

Result<Done> writeMoving(const StudentOutput& output, const std::shared_ptr<const ReviewScene>& scene,
                         const Slip& slip, const PictureFiles& pictures)
{
    if (output.clip.empty() && output.stills.empty()) return Done{};
    const auto request = clipRequest(output, scene->review, slip);
    if (!request) return request.error();
    if (!output.clip.empty()) {
        const auto written = writePairClip(scene, pictures, *request, Theme::paper(), output.clip,
                                           progressOnStderr("drawing the clip"));
        if (!written) return written.error();
    }
    if (output.stills.empty()) return Done{};
    const auto stills =
        writePairStills(scene, pictures, *request, Theme::paper(), {output.stills, slipFileName(slip)});
    if (!stills) return stills.error();
    return Done{};
}

} // namespace

void addStudentOutput(CLI::App& command, StudentOutput& o)
{
    command.add_option(
        "--slip", o.slips,
        "Slip for the student to write, by its ending a page (.pdf), a web page (.html) or text (.txt); "
        "several may follow");
    command.add_option("--captions", o.captions, "Captions of the student's clip to write as WebVTT");
    command.add_option("--paper", o.paper, "Paper of the page, A5 or A4")
        ->check(CLI::IsMember({"A5", "A4"}))
        ->capture_default_str();
    command.add_option("--name", o.name, "Name of the student on the slip");
    command.add_option("--clip-out", o.clip,
                       "Student and reference in step, to write as MP4: the moments of the corrections");
    command.add_option("--clip-posture", o.posture, "Show this posture of the form instead, counted from 1")
        ->check(CLI::PositiveNumber);
    command
        .add_option("--clip-layout", o.layout, "beside, or over: the reference's outline over the student")
        ->check(CLI::IsMember({"beside", "over"}))
        ->capture_default_str();
    command.add_option("--clip-shape", o.shape, "landscape (1280 x 720) or portrait (720 x 1280)")
        ->check(CLI::IsMember({"landscape", "portrait"}))
        ->capture_default_str();
    command.add_option("--clip-tempo", o.timing.tempo, "Tempo against the student's own")
        ->check(CLI::Range(0.125, 2.0))
        ->capture_default_str();
    command.add_option("--clip-times", o.timing.times, "How often each passage is shown")
        ->check(CLI::Range(1, 20))
        ->capture_default_str();
    command.add_flag("--clip-breath", o.breath, "Draw the breath of the form below");
    command.add_flag("--clip-sound", o.timing.sound, "Keep the sound of the student's clip");
    command.add_option("--stills", o.stills, "Folder for a picture (PNG) of each of the same moments")
        ->check(CLI::ExistingDirectory);
    command
        .add_option("--strips", o.strips,
                    "Folder for the built-in performer's right and wrong of each correction (PNG)")
        ->check(CLI::ExistingDirectory);
    command.add_option("--measures", o.measures, "Measures of the student's clip to write as CSV");
}

Result<Done> checkStudentOutput(const StudentOutput& output)
{
    for (const std::string& file : output.slips)
        if (const auto format = slipFormatOf(file); !format) return format.error();
    if (!output.clip.empty() && !output.clip.ends_with(".mp4"))
        return Error{Error::Kind::WrongUse, "a clip can only be written as MP4", output.clip,
                     "Let the file's name end with .mp4."};
    return Done{};
}

Result<Done> writeForStudent(const ShippedData& data, const StudentOutput& output,
                             const FinishedReview& finished, const Slip& slip, const PictureFiles& pictures)
{
    if (!output.captions.empty()) {
        const auto written =
            writeText(output.captions, captionsOf(finished.review, slip, finished.student.track.duration()));
        if (!written) return written.error();
    }
    if (!output.measures.empty()) {
        const auto written = writeText(output.measures, measuresCsv(finished.student));
        if (!written) return written.error();
    }
    if (!output.draws()) return Done{};
    const Drawing drawing;
    const auto scene = sceneOf(FinishedReview(finished));
    const auto slips = writeSlips(output, *scene, slip, pictures);
    if (!slips) return slips.error();
    const auto moving = writeMoving(output, scene, slip, pictures);
    if (!moving) return moving.error();
    if (output.strips.empty()) return Done{};
    const auto strips =
        writeFaultStrips(data, *scene, slip, Theme::paper(), {output.strips, slipFileName(slip)});
    if (!strips) return strips.error();
    return Done{};
}

} // namespace jl::cli
