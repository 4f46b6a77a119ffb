#include "base/json_file.h"
#include <fstream>
#include <sstream>

namespace jl
{

Result<std::string> readText(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in)
        return Error{Error::Kind::BadInput, "the file cannot be opened", file.string(),
                     "Check the name and that you may read it."};
    std::stringstream text;
    text << in.rdbuf();
    return text.str();
}

Result<nlohmann::json> readJson(const std::filesystem::path& file)
{
    const auto text = readText(file);
    if (!text) return text.error();
    try {
        return nlohmann::json::parse(*text);
    } catch (const nlohmann::json::parse_error& e) {
        const auto upTo = text->substr(0, e.byte);
        const auto line = 1 + std::count(upTo.begin(), upTo.end(), '\n');
        return Error{Error::Kind::BadInput,
                     "this is not complete JSON, it breaks off or goes wrong at line " + std::to_string(line),
                     file.string(), "Make the file again, or restore an earlier copy."};
    }
}

Result<Done> writeText(const std::filesystem::path& file, const std::string& text)
{
    std::error_code none;
    const auto there = std::filesystem::status(file, none);
    // A pipe or device is written to, not replaced.
    const bool straight = std::filesystem::exists(there) && !std::filesystem::is_regular_file(there);
    const std::filesystem::path part = straight ? file : std::filesystem::path(file.string() + ".part");
    std::ofstream out(part, std::ios::binary | std::ios::trunc);
    out << text;
    out.close();
    std::error_code failed;
    if (out && !straight) std::filesystem::rename(part, file, failed);
    if (!out || failed) {
        std::error_code ignored;
        if (!straight) std::filesystem::remove(part, ignored);
        return Error{Error::Kind::BadInput, "the file cannot be written", file.string(),
                     "Check that the folder exists, that you may write there and that the disk has room."};
    }
    return Done{};
}

} // namespace jl
