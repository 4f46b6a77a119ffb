#include "lineup/connected_warping.h"
#include <algorithm>
#include <cstdint>

namespace jl
{
namespace
{

constexpr double kNever = std::numeric_limits<double>::infinity();
constexpr int kFinishing = 2; ///< states before the end of a segment that count as its end

enum Move : std::uint8_t { None, Stay, Step, Skip, SkipTwo, Enter, EnterLate, Follow, Cross };

/// A way to be done with an item: from one of its states, or from strangers after it.
struct Leaving {
    double sum = kNever;
    int state = -1; ///< -1: strangers
};

struct Arriving {
    double sum = kNever;
    int item = -1;       ///< the item before; -1: the series begins
    bool begins = false; ///< nothing comes before
};

/// States [begin, end) of a segment.
struct Range {
    int begin = 0, end = 0;
};

class Pass
{
public:
    Pass(int samples, std::span<const WarpingSegment> segments, int items, const ConnectedOptions& options,
         std::span<const double> moved)
        : m_segments(segments), m_items(items), m_options(options), m_moved(moved)
    {
        for (const WarpingSegment& s : segments)
            m_states = std::max(m_states, s.end);
        const auto n = static_cast<std::size_t>(samples);
        m_moves.assign(n * static_cast<std::size_t>(m_states), None);
        m_arrivals.assign(n * static_cast<std::size_t>(items), {});
        m_jumps = m_arrivals;
        m_leavings.assign(n * static_cast<std::size_t>(items), {});
        m_strangerFrom.assign(n * static_cast<std::size_t>(items), -2);
        m_before.assign(static_cast<std::size_t>(m_states), kNever);
        m_now = m_before;
        m_strangers.assign(static_cast<std::size_t>(items), kNever);
        m_segmentOf.assign(static_cast<std::size_t>(m_states), 0);
        for (std::size_t s = 0; s < segments.size(); ++s)
            std::fill(m_segmentOf.begin() + segments[s].begin, m_segmentOf.begin() + segments[s].end, s);
        m_alive.assign(segments.size(), {});
        m_aliveNow = m_alive;
        m_leaderOf.assign(segments.size(), -1);
        for (const WarpingSegment& s : segments)
            if (s.after >= 0 && m_leaderOf[static_cast<std::size_t>(s.after)] < 0)
                m_leaderOf[static_cast<std::size_t>(s.after)] = m_leaders++;
        m_lead.assign(static_cast<std::size_t>(m_leaders), kNever);
        m_leadFrom.assign(n * static_cast<std::size_t>(m_leaders), -1);
    }

    /// Takes a sample in; false where every path costs more than the sum already.
    bool take(int i, const std::function<double(int, int)>& cost, double sum)
    {
        arrive(i);
        const double least = leastBefore(i);
        if (least > sum) return false;
        std::fill(m_now.begin(), m_now.end(), kNever);
        for (std::size_t s = 0; s < m_segments.size(); ++s)
            takeSegment(i, s, least + m_options.beam, cost);
        m_before.swap(m_now);
        m_alive.swap(m_aliveNow);
        beStrange(i);
        leave(i);
        return true;
    }

    ConnectedPath best(int samples) const
    {
        double least = strangeFromStart(samples);
        int item = -1, state = -1;
        for (int k = 0; k < m_items; ++k) {
            if (m_strangers[k] < least) {
                least = m_strangers[k];
                item = k;
                state = -1;
            }
        }
        for (const WarpingSegment& s : m_segments) // the end may lie in the middle of a segment
            for (int j = s.begin; j < s.end; ++j) {
                if (m_before[j] >= least) continue;
                least = m_before[j];
                item = s.item;
                state = j;
            }
        return traced(samples, item, state, least);
    }

private:
    std::size_t cell(int i, int k, int width) const { return static_cast<std::size_t>(i) * width + k; }
    double strangeFromStart(int samples) const { return samples * m_options.stranger; }

    /// The cheapest way into each item at sample i. What it costs to pass over items grows evenly with their
    /// number and going back costs the same from everywhere, so that one pass each way finds the cheapest.
    void arrive(int i)
    {
        Arriving* const best = &m_arrivals[cell(i, 0, m_items)];
        for (int to = 0; to < m_items; ++to)
            best[to] = {strangeFromStart(i) + (to == 0 ? 0 : m_options.lateStart), -1, true};
        Arriving* const jump = &m_jumps[cell(i, 0, m_items)];
        if (i == 0) return;
        const Leaving* const left = &m_leavings[cell(i - 1, 0, m_items)];
        const auto offer = [](Arriving& arriving, double sum, int from) {
            if (sum < arriving.sum) arriving = {sum, from, false};
        };
        Arriving over; // from before the item before
        for (int to = 0; to < m_items; ++to) {
            over.sum += m_options.eachLeftOut;
            if (to > 1) offer(over, left[to - 2].sum + m_options.leftOut + m_options.eachLeftOut, to - 2);
            offer(jump[to], over.sum, over.item);
            offer(jump[to], left[to].sum + m_options.again, to);
        }
        Arriving later;
        for (int to = m_items - 1; to >= 0; --to) {
            offer(jump[to], later.sum + m_options.back, later.item);
            offer(later, left[to].sum, to);
            if (jump[to].sum < best[to].sum) best[to] = jump[to];
            if (to > 0) offer(best[to], left[to - 1].sum, to - 1);
        }
    }

    double leastBefore(int i) const
    {
        if (i == 0) return 0;
        double least = strangeFromStart(i);
        for (const Range& r : m_alive)
            for (int j = r.begin; j < r.end; ++j)
                least = std::min(least, m_before[j]);
        for (double v : m_strangers)
            least = std::min(least, v);
        return least;
    }

    /// The states of a segment that a path can be in at sample i: those it was in before and the next ones,
    /// and where it can be entered.
    Range reachable(int i, std::size_t segment, bool begins, bool jumps, int lastEntry) const
    {
        const WarpingSegment& s = m_segments[segment];
        if (i == 0) return {s.begin, s.end};
        Range r = m_alive[segment];
        const auto widen = [&](int begin, int end) {
            r = r.begin < r.end ? Range{std::min(r.begin, begin), std::max(r.end, end)} : Range{begin, end};
        };
        if (r.begin < r.end) r.end += 3;
        if (begins) widen(s.begin, s.begin + 1);
        if (jumps) widen(s.begin, lastEntry + 1);
        if (s.alongside >= 0) {
            const Range& usual = m_alive[m_segmentOf[static_cast<std::size_t>(s.alongside)]];
            const int over = s.begin - s.alongside + 1;
            if (usual.begin < usual.end) widen(usual.begin + over, usual.end + over);
        }
        return {std::max(r.begin, s.begin), std::min(r.end, s.end)};
    }

    double stayPrice(int i) const
    {
        const double moved = m_moved.empty() ? 0 : m_moved[static_cast<std::size_t>(i)];
        return m_options.stay + m_options.restless * moved;
    }

    void takeSegment(int i, std::size_t segment, double limit, const std::function<double(int, int)>& cost)
    {
        const WarpingSegment& s = m_segments[segment];
        const double jump = s.onlyAfter ? kNever : m_jumps[cell(i, s.item, m_items)].sum + s.entry;
        const double arrival =
            s.fromElsewhere || s.onlyAfter ? kNever : m_arrivals[cell(i, s.item, m_items)].sum + s.entry;
        const double follow = s.after < 0 ? kNever : m_lead[leader(s.after)];
        const int firstLate = s.fromElsewhere ? s.begin : s.begin + 1;
        const int lastEntry = s.begin + static_cast<int>(m_options.lateEntry * (s.end - s.begin));
        const Range range =
            reachable(i, segment, std::min(arrival, follow) <= limit, jump <= limit, lastEntry);
        const double stay = stayPrice(i);
        Range& alive = m_aliveNow[segment];
        alive = {0, 0};
        for (int j = range.begin; j < range.end; ++j) {
            double sum = kNever;
            Move move = None;
            const auto offer = [&](double value, Move m) {
                if (value >= sum) return;
                sum = value;
                move = m;
            };
            if (j == s.begin) offer(arrival, Enter);
            if (j == s.begin) offer(follow, Follow);
            if (j >= firstLate && j <= lastEntry) offer(jump, EnterLate);
            if (i == 0 && s.mayBegin) offer(s.entry + m_options.lateStart, Enter); // cut in the middle
            if (i > 0) {
                offer(m_before[j] + stay, Stay);
                if (j > s.begin) offer(m_before[j - 1], Step);
                if (j > s.begin + 1) offer(m_before[j - 2] + m_options.skip, Skip);
                if (j > s.begin + 2) offer(m_before[j - 3] + 2 * m_options.skip, SkipTwo);
                if (s.alongside >= 0 && j > s.begin)
                    offer(m_before[s.alongside + j - s.begin - 1] + s.entry, Cross);
            }
            if (sum > limit) continue;
            m_now[j] = sum + cost(i, j);
            alive = alive.begin < alive.end ? Range{alive.begin, j + 1} : Range{j, j + 1};
            m_moves[cell(i, j, m_states)] = move;
        }
    }

    void beStrange(int i)
    {
        for (int k = 0; k < m_items; ++k) {
            const Leaving left = i > 0 ? m_leavings[cell(i - 1, k, m_items)] : Leaving{};
            m_strangers[k] = left.sum + m_options.stranger;
            m_strangerFrom[cell(i, k, m_items)] = left.state;
        }
    }

    void leave(int i)
    {
        for (int k = 0; k < m_items; ++k)
            m_leavings[cell(i, k, m_items)] = {m_strangers[k], -1};
        for (std::size_t n = 0; n < m_segments.size(); ++n) {
            const WarpingSegment& s = m_segments[n];
            Leaving own;
            for (int j = m_alive[n].begin; j < m_alive[n].end; ++j) {
                const double sum = m_before[j] + (j + kFinishing < s.end ? m_options.unfinished : 0);
                if (sum < own.sum) own = {sum, j};
            }
            Leaving& best = m_leavings[cell(i, s.item, m_items)];
            if (own.sum < best.sum) best = own;
            if (m_leaderOf[n] < 0) continue;
            m_lead[static_cast<std::size_t>(m_leaderOf[n])] = own.sum;
            m_leadFrom[cell(i, m_leaderOf[n], m_leaders)] = own.state;
        }
    }

    std::size_t leader(int segment) const
    {
        return static_cast<std::size_t>(m_leaderOf[static_cast<std::size_t>(segment)]);
    }

    int segmentOf(int state) const { return static_cast<int>(m_segmentOf[static_cast<std::size_t>(state)]); }

    ConnectedPath traced(int samples, int item, int state, double total) const
    {
        ConnectedPath path;
        path.meanCost = total / std::max(1, samples);
        int i = samples - 1;
        while (i >= 0 && item >= 0) {
            if (state < 0) { // strangers after the item
                ++path.strangers;
                state = m_strangerFrom[cell(i, item, m_items)];
                --i;
                continue;
            }
            WarpedRun run{segmentOf(state), {}};
            Move move = None;
            for (; move != Enter && move != EnterLate && move != Follow && i >= 0; --i) {
                run.steps.emplace_back(i, state);
                move = static_cast<Move>(m_moves[cell(i, state, m_states)]);
                if (move == Step) state -= 1;
                if (move == Skip) state -= 2;
                if (move == SkipTwo) state -= 3;
                if (move == Cross) {
                    const WarpingSegment& s = m_segments[segmentOf(state)];
                    state = s.alongside + state - s.begin - 1;
                }
            }
            std::reverse(run.steps.begin(), run.steps.end());
            const int first = run.steps.front().first;
            const Arriving& from = (move == EnterLate ? m_jumps : m_arrivals)[cell(first, item, m_items)];
            const WarpingSegment& begun = m_segments[segmentOf(run.steps.front().second)];
            path.runs.push_back(std::move(run));
            if (move == Follow) {
                item = m_segments[begun.after].item;
                state = m_leadFrom[cell(first - 1, m_leaderOf[begun.after], m_leaders)];
                continue;
            }
            if (first == 0 || from.begins) break;
            item = from.item;
            state = m_leavings[cell(first - 1, item, m_items)].state;
        }
        if (path.runs.empty())
            path.strangers = samples;
        else
            path.strangers += path.runs.back().steps.front().first;
        std::reverse(path.runs.begin(), path.runs.end());
        return path;
    }

    std::span<const WarpingSegment> m_segments;
    int m_items, m_states = 0;
    ConnectedOptions m_options;
    std::span<const double> m_moved;
    std::vector<std::uint8_t> m_moves;      ///< by sample and state
    std::vector<Arriving> m_arrivals;       ///< by sample and item
    std::vector<Arriving> m_jumps;          ///< the same, but for the way from the item before
    std::vector<Leaving> m_leavings;        ///< by sample and item
    std::vector<int> m_strangerFrom;        ///< by sample and item: the state left, -1: strangers before too
    std::vector<double> m_before, m_now;    ///< by state
    std::vector<Range> m_alive, m_aliveNow; ///< by segment: where paths are that were not given up
    std::vector<std::size_t> m_segmentOf;   ///< by state
    std::vector<double> m_strangers;        ///< by item
    int m_leaders = 0;                      ///< segments that another may follow
    std::vector<int> m_leaderOf;            ///< by segment: which leader it is, -1: none
    std::vector<double> m_lead;             ///< by leader: the cheapest way to be done with it
    std::vector<int> m_leadFrom;            ///< by sample and leader: the state left
};

} // namespace

ConnectedPath warpConnected(int samples, std::span<const WarpingSegment> segments, int items,
                            const std::function<double(int, int)>& cost, const ConnectedOptions& options,
                            std::span<const double> moved)
{
    if (samples == 0 || segments.empty()) return {};
    Pass pass(samples, segments, items, options, moved);
    for (int i = 0; i < samples; ++i)
        if (!pass.take(i, cost, options.limit * samples)) return {{}, options.limit, samples};
    return pass.best(samples);
}

} // namespace jl
