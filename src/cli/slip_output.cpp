#include "cli/slip_output.h"
#include "base/json_file.h"
#include "draw/fonts.h"
#include <QGuiApplication>

namespace jl::cli
{
namespace
{

/// What fonts and pages need, as long as they are drawn.
class Drawing
{
public:
    Drawing() : m_application(m_count, m_arguments)
    {
        if (!loadFonts())
            std::fprintf(stderr, "The program's typeface cannot be read; slips are set in another one.\n");
    }

private:
    int m_count = 1;
    char m_name[18] = "jolly-lantern-cli";
    char* m_arguments[2] = {m_name, nullptr};
    QGuiApplication m_application;
};

} // namespace

void addSlipOptions(CLI::App& command, SlipOptions& options)
{
    command.add_option(
        "--slip", options.files,
        "Slip for the student to write, by its ending a page (.pdf), a web page (.html) or text (.txt); "
        "several may follow");
    command.add_option("--captions", options.captions, "Captions of the student's clip to write as WebVTT");
    command.add_option("--paper", options.paper, "Paper of the page, A5 or A4")
        ->check(CLI::IsMember({"A5", "A4"}))
        ->capture_default_str();
    command.add_option("--name", options.name, "Name of the student on the slip");
}

Result<Done> checkSlipOptions(const SlipOptions& options)
{
    for (const std::string& file : options.files)
        if (const auto format = slipFormatOf(file); !format) return format.error();
    return Done{};
}

Result<Done> writeSlips(const SlipOptions& options, const FinishedReview& finished, const Slip& slip,
                        const PictureFiles& pictures)
{
    if (!options.captions.empty()) {
        const auto written =
            writeText(options.captions, captionsOf(finished.review, slip, finished.student.track.duration()));
        if (!written) return written.error();
    }
    if (options.files.empty()) return Done{};
    qputenv("QT_QPA_PLATFORM", "offscreen"); // the command line needs no screen
    const Drawing drawing;
    auto drawn = slipPictures(*sceneOf(FinishedReview(finished)), slip, pictures, Theme::paper());
    if (!drawn) return drawn.error();
    const SlipPage page(slip, std::move(*drawn), Theme::paper());
    for (const std::string& file : options.files) {
        const auto format = slipFormatOf(file);
        if (!format) return format.error();
        const auto written =
            writeSlip(page, *format, options.paper == "A4" ? PaperSize::A4 : PaperSize::A5, file);
        if (!written) return written.error();
    }
    return Done{};
}

} // namespace jl::cli
