#include "exchange/measures_file.h"
#include "measure/derived_value.h"
#include <cmath>
#include <cstdio>
#include <map>

namespace jl
{
namespace
{

/// A row of the file. A column keeps its side of the body whichever side leads the posture.
using Row = std::map<std::string, Value, std::less<>>;

Row rowOf(const std::vector<Value>& values, const FoundPhase& phase, const OwnLengths& own)
{
    Row row;
    for (const Value& v : values)
        row[measureId(v.measure, phase.lead)] = v;
    for (const DerivedValue& v : derivedValues(values, phase.lead, phase.heading, own))
        row[std::string(v.id)] = v.value;
    return row;
}

/// All measures by the side that leads the form, then what is derived from them.
std::vector<std::string> columns(Side lead)
{
    std::vector<std::string> ids;
    for (const MeasureInfo& m : allMeasures())
        ids.push_back(measureId(m.measure, lead));
    for (const DerivedValue& v : derivedValues(std::vector<Value>(kMeasureCount), lead, 0, {}))
        ids.emplace_back(v.id);
    return ids;
}

std::string number(double v)
{
    char cell[32];
    std::snprintf(cell, sizeof cell, "%.5f", v);
    return cell;
}

std::string timeCell(double time)
{
    char cell[32];
    std::snprintf(cell, sizeof cell, "%.6f", time);
    return cell;
}

std::string phaseCells(const FoundPhase& phase)
{
    return "," + phase.posture + "," + phase.phase;
}

} // namespace

std::string measuresCsv(const ClipReading& clip)
{
    const OwnLengths own = OwnLengths::of(clip.profile, clip.lengths);
    const std::vector<std::string> ids = columns(clip.lead());
    std::string text = "time";
    for (const std::string& id : ids)
        text += "," + id + "," + id + ".u," + id + ".status";
    text += ",posture,phase,view,plane\n";
    for (std::size_t i = 0; i < clip.track.frames.size(); ++i) {
        const double time = clip.track.frames[i].time;
        const FoundPhase& phase = clip.lineUp.phaseAt(time);
        const std::vector<Value> values = clip.measureFrame(i);
        const Row row = rowOf(values, phase, own);
        text += timeCell(time);
        for (const std::string& id : ids) {
            const Value& v = row.find(id)->second;
            text += v.seen() ? "," + number(v.value) + "," + number(v.u) + "," : ",,,";
            text += statusName(v.status);
        }
        text += phaseCells(phase) + "," + std::string(viewName(values.front().view)) + "," +
                std::string(planeName(values.front().plane)) + '\n';
    }
    return text;
}

std::string measuresCsv(const LinedUpMotion& motion, const PersonProfile& profile)
{
    const OwnLengths own = OwnLengths::of(profile, motion.lengths);
    const std::vector<std::string> ids = columns(motion.lineUp.phases.front().lead);
    std::string text = "time,posture,phase";
    for (const std::string& id : ids)
        text += "," + id;
    text += '\n';
    std::vector<Value> values(kMeasureCount);
    for (std::size_t i = 0; i < motion.motion.frames.size(); ++i) {
        const FoundPhase& phase = motion.lineUp.phaseAt(motion.motion.time[i]);
        for (std::size_t m = 0; m < kMeasureCount; ++m) {
            values[m].measure = static_cast<Measure>(m);
            values[m].value = motion.value(values[m].measure, i);
        }
        const Row row = rowOf(values, phase, own);
        text += timeCell(motion.motion.time[i]) + phaseCells(phase);
        for (const std::string& id : ids) {
            const double value = row.find(id)->second.value;
            text += std::isfinite(value) ? "," + number(value) : ",";
        }
        text += '\n';
    }
    return text;
}

} // namespace jl
