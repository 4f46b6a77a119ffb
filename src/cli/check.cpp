#include "base/json_file.h"
#include "base/paths.h"
#include "bundle/review_bundle.h"
#include "cli/commands.h"
#include "exchange/measures_check.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "exchange/track_file.h"
#include "media/clip_info.h"
#include "standards/schema_check.h"
#include <algorithm>
#include <cstdio>
#include <memory>

namespace jl::cli
{
namespace
{

int runBundleCheck(const std::string& file)
{
    const auto lines = checkBundle(file);
    if (!lines) return fail(lines.error());
    std::printf("%s: whole bundle of a review\n", file.c_str());
    for (const std::string& line : *lines)
        std::printf("- %s\n", line.c_str());
    return 0;
}

int runMeasuresCheck(const std::string& csv, const std::string& file)
{
    const auto table = checkMeasures(csv, file);
    if (!table) return fail(table.error());
    std::printf("%s: %zu measures at %zu moments\n", file.c_str(), table->measures, table->moments);
    return 0;
}

/// Looks at a file by what it is: a bundle, a table of measures, a track, a review, a profile, a standard, or
/// else a video.
int runCheck(const std::string& file)
{
    if (namesBundle(file)) return runBundleCheck(file);
    const auto ending = std::filesystem::path(file).extension();
    if (ending == ".csv") {
        const auto text = readText(file);
        if (!text) return fail(text.error());
        if (namesMeasures(*text)) return runMeasuresCheck(*text, file);
        const auto table = readTrack(file);
        if (!table) return fail(table.error());
        std::printf("%s: track of %zu frames, body seen in %.1f %%\n", file.c_str(), table->frames.size(),
                    100 * table->seenShare());
        return 0;
    }
    if (ending != ".json") {
        const auto info = probe(file);
        if (!info) return fail(info.error());
        std::printf("%s: video, %s, %d x %d, %.2f frames/s%s, %.2f s\n", file.c_str(), info->codec.c_str(),
                    info->width, info->height, info->framesPerSecond,
                    info->variableFrameRate ? " (variable)" : "", info->duration);
        return 0;
    }
    const auto json = readJson(file);
    if (!json) return fail(json.error());
    if (json->is_object() && json->contains("findings") && json->contains("postures")) {
        std::printf("%s: review of %s with %zu findings\n", file.c_str(), json->value("form", "?").c_str(),
                    json->at("findings").size());
        return 0;
    }
    if (json->is_object() &&
        (json->contains("height") || json->contains("foot_length") || json->contains("limits")) &&
        !json->contains("frames")) {
        const auto profile = readProfile(file);
        if (!profile) return fail(profile.error());
        std::printf("%s: profile\n", file.c_str());
        for (const std::string& words : limitWords(profile->limits))
            std::printf("- %s\n", words.c_str());
        return 0;
    }
    if (const std::string kind = kindOfStandard(*json); !kind.empty()) {
        const auto own = readOwn(file, dataFolder(), kind);
        if (!own) return fail(own.error());
        std::printf("%s: well-formed %s standard\n", file.c_str(), kind.c_str());
        return 0;
    }
    const auto track = readTrack(file);
    if (!track) return fail(track.error());
    std::printf("%s: track of %zu frames, body seen in %.1f %%\n", file.c_str(), track->frames.size(),
                100 * track->seenShare());
    return 0;
}

} // namespace

void addCheck(CLI::App& program, int& exitCode)
{
    auto file = std::make_shared<std::string>();
    CLI::App* c = program.add_subcommand("check", "Is this file well-formed, and if not, where is it wrong?");
    c->add_option(
         "file", *file,
         "Video, track, review, bundle, profile, or a posture, school, forms or faults file of your own")
        ->required();
    c->callback([file, &exitCode] { exitCode = runCheck(*file); });
}

} // namespace jl::cli
