#pragma once
#include "cli/commands.h"
#include "draw/pair_clip.h"
#include "draw/slip_export.h"

namespace jl::cli
{

/// What of a review goes to the student.
struct StudentOutput {
    std::vector<std::string> slips; ///< PDF, HTML or text
    std::string captions, paper = "A5", name;
    std::string clip; ///< MP4
    int posture = 0;  ///< that the clip shows, from 1; 0: the corrections
    std::string layout = "beside", shape = "landscape";
    bool breath = false;
    PairTiming timing;
    std::string stills;   ///< folder
    std::string strips;   ///< folder
    std::string measures; ///< CSV

    bool draws() const { return !slips.empty() || !clip.empty() || !stills.empty() || !strips.empty(); }
};

void addStudentOutput(CLI::App& command, StudentOutput& output);

/// Whether the files have endings that can be written; asked before the long work.
Result<Done> checkStudentOutput(const StudentOutput& output);

Result<Done> writeForStudent(const ShippedData& data, const StudentOutput& output,
                             const FinishedReview& finished, const Slip& slip, const PictureFiles& pictures);

} // namespace jl::cli
