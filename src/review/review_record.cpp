#include "review/review_record.h"
#include <algorithm>

namespace jl
{

const FaultCount* ReviewRecord::fault(const std::string& id) const
{
    const auto found =
        std::find_if(faults.begin(), faults.end(), [&](const FaultCount& f) { return f.fault == id; });
    return found == faults.end() ? nullptr : &*found;
}

const ReviewRecord::Value* ReviewRecord::value(std::size_t posture, const std::string& phase,
                                               const std::string& measure) const
{
    const auto found = std::find_if(values.begin(), values.end(), [&](const Value& v) {
        return v.posture == posture && v.phase == phase && v.measure == measure;
    });
    return found == values.end() ? nullptr : &*found;
}

std::vector<ReviewRecord::Value> historyOf(std::span<const ReviewRecord> earlier, std::size_t posture,
                                           const std::string& phase, const std::string& measure,
                                           std::string_view view)
{
    std::vector<ReviewRecord::Value> values;
    for (const ReviewRecord& record : earlier)
        if (const auto* value = record.value(posture, phase, measure); value && value->view == view)
            values.push_back(*value);
    return values;
}

std::map<std::string, FaultMemory> lessonsOf(std::span<const ReviewRecord> records)
{
    std::map<std::string, FaultMemory> memory;
    for (const ReviewRecord& record : records)
        for (const FaultCount& f : record.faults) // one that could not be judged keeps what it had
            memory[f.fault].lessons = f.shows > 0 ? memory[f.fault].lessons + 1 : 0;
    return memory;
}

ReviewRecord recordOf(const Review& review)
{
    ReviewRecord record{review.form, review.school, review.side, {}, {}, review.counts};
    for (std::size_t i = 0; i < review.postures.size(); ++i) {
        record.postures.push_back(review.postures[i].id);
        for (const ReviewedPhase& phase : review.postures[i].phases) {
            const std::string& id = phase.student.phase;
            for (const JudgedValue& v : phase.values)
                if (v.status != Status::Unseen)
                    record.values.push_back({i, id, std::string(measureInfo(v.value.measure).key),
                                             std::string(viewName(v.value.view)), v.value.value, v.value.u,
                                             v.band});
            for (const JudgedWhole& w : phase.whole)
                if (w.status != Status::Unseen)
                    record.values.push_back({i, id, std::string(phaseMeasureInfo(w.value.measure).key),
                                             std::string(w.value.view), w.value.value, w.value.u, w.band});
        }
    }
    return record;
}

} // namespace jl
