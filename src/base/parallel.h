#pragma once
#include <cstddef>
#include <functional>

namespace jl
{

/// Calls work(i) for every i below n, shared among the machine's cores; nothing is said about the order. What
/// work throws comes out of here.
void inParallel(std::size_t n, const std::function<void(std::size_t)>& work);

} // namespace jl
