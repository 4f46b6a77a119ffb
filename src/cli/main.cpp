#include "base/time_left.h"
#include "cli/commands.h"
#include <chrono>
#include <cstdio>
#include <memory>
#include <unistd.h>

namespace jl::cli
{

int fail(const Error& error)
{
    std::fprintf(stderr, "%s\n", error.message().c_str());
    return error.exitCode();
}

void sayWhatIsLeftOut(const std::string& file, const std::string& what)
{
    if (!what.empty()) std::fprintf(stderr, "%s: %s\n", file.c_str(), what.c_str());
}

Progress progressOnStderr(const std::string& what)
{
    const bool terminal = isatty(STDERR_FILENO) != 0;
    auto last = std::make_shared<int>(-1);
    const TimeLeft left;
    return [=](double share) {
        const int step = static_cast<int>(share * (terminal ? 100 : 10));
        if (step == *last) return true;
        *last = step;
        std::string words = left.words(share);
        if (!words.empty()) words = ", " + words;
        std::fprintf(stderr, terminal ? "\r%s %3.0f %%%-32s" : "%s %3.0f %%%s\n", what.c_str(), 100 * share,
                     words.c_str());
        if (terminal && share >= 1) std::fprintf(stderr, "\n");
        return true;
    };
}

} // namespace jl::cli

int main(int argc, char** argv)
{
    using namespace jl::cli;
    CLI::App program{"Jolly Lantern on the command line: measure a tai chi performance from video."};
    program.set_version_flag("--version", LANTERN_VERSION);
    program.require_subcommand(1);
    int exitCode = 0;
    addSimulate(program, exitCode);
    addExtract(program, exitCode);
    addMeasure(program, exitCode);
    addReview(program, exitCode);
    addValidate(program, exitCode);
    addBench(program, exitCode);
    addCheck(program, exitCode);
    addCut(program, exitCode);
    try {
        program.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = program.exit(e);
        return code == 0 ? 0 : 2;
    } catch (
        const std::exception& e) { // nothing foreseen, such as no memory left: still a message, not a crash
        return fail({jl::Error::Kind::BadInput, std::string("the command had to give up: ") + e.what(),
                     program.get_name(), "Please report it with the file that led here."});
    }
    return exitCode;
}
