#include "form/posture_ways.h"
#include "base/angles.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kOtherWay = 0.1; ///< price of a posture on the other side or in another direction
constexpr double kTurns[] = {-90, -45, 45, 90, 180};

/// The model's time for a time of another performance of the same posture, from key moment to key moment.
double modelTimeOf(double time, const ModelPerformance& performance, const ModelPerformance::Place& performed,
                   const ModelPerformance& model, const ModelPerformance::Place& place)
{
    double from = performed.begin, modelFrom = place.begin;
    const auto between = [&](double to, double modelTo) {
        return mix(modelFrom, modelTo, clampTo((time - from) / std::max(1e-9, to - from), 0, 1));
    };
    for (std::size_t k = 0; k <= place.lastPhase - place.firstPhase; ++k) {
        const double to = performance.phases[performed.firstPhase + k].time;
        const double modelTo = model.phases[place.firstPhase + k].time;
        if (time <= to) return between(to, modelTo);
        from = to;
        modelFrom = modelTo;
    }
    return between(performed.end, place.end);
}

} // namespace

WarpingSegment& PostureWays::add(const ModelPictures& seen, std::size_t place,
                                 const ModelPerformance::Place& span, double rate, Way way)
{
    const PictureSeries pictures = picturesOf(seen, rate, span.begin, span.end);
    const int begin = static_cast<int>(m_series.size());
    m_series.time.insert(m_series.time.end(), pictures.time.begin(), pictures.time.end());
    m_series.lines.insert(m_series.lines.end(), pictures.lines.begin(), pictures.lines.end());
    m_ways.push_back(way);
    return m_segments.emplace_back(
        WarpingSegment{begin, static_cast<int>(m_series.size()), static_cast<int>(place)});
}

PostureWays PostureWays::usual(const ModelPerformance& model, double azimuth, double distance, double rate)
{
    PostureWays out;
    const ModelPictures seen(model, azimuth, distance);
    const auto places = model.places();
    for (std::size_t i = 0; i < places.size(); ++i)
        out.add(seen, i, places[i], rate, {});
    return out;
}

PostureWays PostureWays::all(const ModelPerformance& model, const ModelPerformance* mirrored, double azimuth,
                             double distance, double rate)
{
    PostureWays out = usual(model, azimuth, distance, rate);
    const auto places = model.places();
    const auto addOther = [&](const ModelPictures& seen, std::size_t place, Way way) {
        WarpingSegment& segment = out.add(seen, place, places[place], rate, way);
        segment.entry = kOtherWay;
        segment.alongside = out.m_segments[place].begin;
    };
    for (double turn : kTurns) {
        const ModelPictures seen(model, azimuth, distance, model, turn);
        for (std::size_t i = 1; i < places.size(); ++i)
            addOther(seen, i, {false, turn});
    }
    for (std::size_t i = 1; mirrored && i < places.size(); ++i) {
        const std::size_t phase = places[i].lastPhase;
        const double off = model.phases[phase].heading - mirrored->phases[phase].heading;
        addOther(ModelPictures(*mirrored, azimuth, distance, model, off), i, {true, 0});
    }
    return out;
}

void PostureWays::addRearranged(const ModelPerformance& model, double azimuth, double distance, double rate)
{
    const auto places = model.places();
    for (const ModelPerformance::Rearrangement& r : model.rearranged) {
        const ModelPerformance performance = r.perform();
        const ModelPictures seen(performance, azimuth, distance);
        const auto performed = performance.places();
        if (performed.size() != r.parts.size()) continue; // two of its postures run into one
        for (std::size_t i = 1; i < performed.size(); ++i) {
            const auto [place, otherSide] = r.parts[i];
            WarpingSegment& segment = add(seen, place, performed[i], rate, {otherSide, 0, true});
            segment.fromElsewhere = place != r.parts[i - 1].place + 1;
            if (!segment.fromElsewhere) segment.entry = kOtherWay;
            for (int j = segment.begin; j < segment.end; ++j) {
                double& time = m_series.time[static_cast<std::size_t>(j)];
                time = modelTimeOf(time, performance, performed[i], model, places[place]);
            }
        }
    }
}

} // namespace jl
