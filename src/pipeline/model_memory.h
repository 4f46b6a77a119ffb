#pragma once
#include "body/landmark.h"
#include "standards/model_performance.h"
#include <list>
#include <mutex>
#include <optional>
#include <string>
#include <tuple>

namespace jl
{

/// A cache of the built-in performances used last, so that a model is made once for several clips of a form.
/// Thread-safe.
class ModelMemory
{
public:
    /// Form, school, leading side, whether the body kicks, and how deep its knees may bend, deg.
    using Key = std::tuple<std::string, std::string, Side, bool, double>;

    std::optional<ModelPerformance> find(const Key& key)
    {
        const std::lock_guard lock(m_mutex);
        for (auto it = m_kept.begin(); it != m_kept.end(); ++it) {
            if (it->first != key) continue;
            m_kept.splice(m_kept.begin(), m_kept, it);
            return m_kept.front().second;
        }
        return {};
    }

    void keep(const Key& key, const ModelPerformance& model)
    {
        constexpr std::size_t some = 4; // both sides of two forms
        const std::lock_guard lock(m_mutex);
        m_kept.emplace_front(key, model);
        if (m_kept.size() > some) m_kept.pop_back();
    }

private:
    std::mutex m_mutex;
    std::list<std::pair<Key, ModelPerformance>> m_kept; ///< newest first
};

} // namespace jl
