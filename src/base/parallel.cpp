#include "base/parallel.h"
#include <algorithm>
#include <future>
#include <thread>
#include <vector>

namespace jl
{

void inParallel(std::size_t n, const std::function<void(std::size_t)>& work)
{
    const std::size_t cores = std::max(1u, std::thread::hardware_concurrency());
    const std::size_t workers = std::min(cores, n);
    const auto share = [&](std::size_t first) {
        for (std::size_t i = first; i < n; i += workers)
            work(i);
    };
    std::vector<std::future<void>> others;
    for (std::size_t first = 1; first < workers; ++first)
        others.push_back(std::async(std::launch::async, share, first));
    if (n > 0) share(0);
    for (std::future<void>& other : others)
        other.get();
}

} // namespace jl
