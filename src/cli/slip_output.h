#pragma once
#include "cli/commands.h"
#include "draw/slip_export.h"

namespace jl::cli
{

/// What of a review goes to the student.
struct SlipOptions {
    std::vector<std::string> files; ///< PDF, HTML or text
    std::string captions, paper = "A5", name;
};

void addSlipOptions(CLI::App& command, SlipOptions& options);

/// Whether the files have endings that can be written; asked before the long work.
Result<Done> checkSlipOptions(const SlipOptions& options);

Result<Done> writeSlips(const SlipOptions& options, const FinishedReview& finished, const Slip& slip,
                        const PictureFiles& pictures);

} // namespace jl::cli
