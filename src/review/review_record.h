#pragma once
#include "review/review.h"
#include <span>

namespace jl
{

/// What is kept of a review so that a later one can be compared with it.
struct ReviewRecord {
    struct Value {
        std::size_t posture = 0; ///< place in the form
        std::string phase;
        std::string measure; ///< key, lead/rear form
        std::string view;    ///< that gave it
        double value = 0, u = 0;
        std::optional<Band> band;
    };
    std::string form, school;
    Side side = Side::Right;
    std::vector<std::string> postures; ///< ids, in the order of the form
    std::vector<Value> values;         ///< that were seen
    std::vector<FaultCount> faults;    ///< those that could be judged at all

    const FaultCount* fault(const std::string& id) const;
    const Value* value(std::size_t posture, const std::string& phase, const std::string& measure) const;
};

ReviewRecord recordOf(const Review& review);

/// One measure of one phase over earlier reviews, the oldest first; from other views it would not compare, so
/// those are left out.
std::vector<ReviewRecord::Value> historyOf(std::span<const ReviewRecord> earlier, std::size_t posture,
                                           const std::string& phase, const std::string& measure,
                                           std::string_view view);

/// In how many lessons in a row, up to the last, each fault was found; the oldest record first.
std::map<std::string, FaultMemory> lessonsOf(std::span<const ReviewRecord> records);

} // namespace jl
