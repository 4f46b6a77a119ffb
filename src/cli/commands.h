#pragma once
#include "base/progress.h"
#include "base/result.h"
#include <CLI/CLI.hpp>
#include <string>

namespace jl::cli
{

/// Each command adds itself to the program and fills exitCode when it ran.
void addSimulate(CLI::App& program, int& exitCode);
void addExtract(CLI::App& program, int& exitCode);
void addMeasure(CLI::App& program, int& exitCode);
void addReview(CLI::App& program, int& exitCode);
void addValidate(CLI::App& program, int& exitCode);
void addBench(CLI::App& program, int& exitCode);
void addCheck(CLI::App& program, int& exitCode);
void addCut(CLI::App& program, int& exitCode);

/// Prints an error on stderr and gives its exit code.
int fail(const Error& error);

/// Says on stderr what of a file that was given is not used, if anything.
void sayWhatIsLeftOut(const std::string& file, const std::string& what);

/// Progress on stderr, rewritten in place on a terminal, with the time left.
Progress progressOnStderr(const std::string& what);

} // namespace jl::cli
