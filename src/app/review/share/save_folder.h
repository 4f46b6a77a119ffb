#pragma once

namespace jl
{

/// Setting: the folder where pages and pictures for students were saved last.
inline constexpr const char* kStudentFolder = "slip.folder";

} // namespace jl
