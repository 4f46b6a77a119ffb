#pragma once
#include "base/result.h"
#include "body/track.h"

namespace jl
{

/// A track as the library keeps it: everything that the JSON has (trackToJson()), as numbers of four bytes
/// that need no parsing. Only for the library's own use on machines of one byte order.
std::string packTrack(const Track& track);

/// A track that was packed, or its JSON, as libraries of earlier versions have it. Damaged data is refused.
Result<Track> unpackTrack(const std::string& data, const std::string& where);

} // namespace jl
