#include "media/clip_info.h"
#include "media/decoder.h"

namespace jl
{

Result<ClipInfo> probe(const std::string& path)
{
    auto decoder = Decoder::open(path);
    if (!decoder) return decoder.error();
    return decoder->info();
}

} // namespace jl
