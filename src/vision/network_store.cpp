#include "vision/network_store.h"
#include "base/paths.h"
#include <array>
#include <fstream>
#include <iterator>
#include <memory>
#include <vector>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

namespace jl
{
namespace
{

const char* const kRemedy = "Run ./lantern build to fetch the networks; it checks them too.";

std::string sha256(const std::vector<char>& bytes)
{
    const std::unique_ptr<AVSHA, void (*)(void*)> sha(av_sha_alloc(), av_free);
    std::array<std::uint8_t, 32> digest{};
    av_sha_init(sha.get(), 256);
    av_sha_update(sha.get(), reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size());
    av_sha_final(sha.get(), digest.data());
    std::string hex;
    for (std::uint8_t byte : digest) {
        hex += "0123456789abcdef"[byte >> 4];
        hex += "0123456789abcdef"[byte & 15];
    }
    return hex;
}

/// The checksum listed for a file, or nothing.
std::string listedSum(const std::string& name)
{
    std::ifstream list(modelFolder() / "SHA256SUMS");
    std::string sum, file;
    while (list >> sum >> file)
        if (file == name) return sum;
    return {};
}

Result<std::string> checkedFile(const std::string& name)
{
    const std::string path = (modelFolder() / name).string();
    std::ifstream file(path, std::ios::binary);
    if (!file) return Error{Error::Kind::BadInput, "the network file is missing", path, kRemedy};
    const std::vector<char> bytes((std::istreambuf_iterator<char>(file)), {});
    if (sha256(bytes) != listedSum(name))
        return Error{Error::Kind::BadInput, "the network file is not the published one: its checksum differs",
                     path, kRemedy};
    return path;
}

std::string landmarkFileName(LandmarkModel model)
{
    return "pose_landmark_" + modelName(model) + ".tflite";
}

} // namespace

std::string modelName(LandmarkModel model)
{
    return model == LandmarkModel::Lite ? "lite" : model == LandmarkModel::Full ? "full" : "heavy";
}

Result<std::string> detectorFile()
{
    return checkedFile("pose_detection.tflite");
}

Result<std::string> landmarkFile(LandmarkModel model)
{
    return checkedFile(landmarkFileName(model));
}

Result<NetworkChoice> networksFromName(const std::string& name)
{
    for (LandmarkModel model : {LandmarkModel::Lite, LandmarkModel::Full, LandmarkModel::Heavy})
        if (name == modelName(model)) return NetworkChoice{model, false};
    const auto have = [](LandmarkModel model) {
        std::error_code ignored;
        return std::filesystem::exists(modelFolder() / landmarkFileName(model), ignored);
    };
    if (name == "auto" || name == "full+heavy") {
        if (have(LandmarkModel::Full)) return NetworkChoice{LandmarkModel::Full, have(LandmarkModel::Heavy)};
        return NetworkChoice{LandmarkModel::Lite, false};
    }
    return Error{Error::Kind::WrongUse, "there is no network called \"" + name + "\"", "--model",
                 "Use lite, full, heavy or auto."};
}

} // namespace jl
