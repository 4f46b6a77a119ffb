#include "media/input_file.h"
#include <filesystem>

namespace jl::ff
{

Result<Handle<AVFormatContext>> openInput(const std::string& path)
{
    const auto refused = [&](const std::string& what, const std::string& remedy) {
        return Error{Error::Kind::BadInput, what, path, remedy};
    };
    av_log_set_level(AV_LOG_QUIET);
    std::error_code fileError;
    if (!std::filesystem::exists(path, fileError))
        return refused("there is no such file", "Check the name and the folder.");
    if (std::filesystem::is_directory(path, fileError))
        return refused("this is a folder, not a video", "Name one clip in it.");
    if (std::filesystem::file_size(path, fileError) == 0)
        return refused("the file is empty (0 bytes)", kAskForCopy);
    AVFormatContext* raw = nullptr;
    const int code = avformat_open_input(&raw, path.c_str(), nullptr, nullptr);
    Handle<AVFormatContext> format(raw);
    if (code < 0)
        return refused("this is not a video that can be read, or its head is missing (" + reason(code) + ")",
                       kAskForCopy);
    if (avformat_find_stream_info(raw, nullptr) < 0)
        return refused("the file holds no pictures that can be read", kAskForCopy);
    return format;
}

} // namespace jl::ff
