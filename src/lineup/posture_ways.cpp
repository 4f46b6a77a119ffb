#include "lineup/posture_ways.h"
#include "base/angles.h"
#include "base/parallel.h"
#include "base/units.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Options of other ways to do a posture.
/// Chosen on: the quick set (validate --quick).
struct PostureWayOptions {
    /// Of a posture on the other side or in another direction. x0.5 and x2: none.
    Cost otherWay = 0.05;
    /// Difference of the feet's places from which a stance is another. x0.5 and x2: none.
    Metres standsElsewhere = 0.1;
};
constexpr PostureWayOptions kOptions;
constexpr double kTurns[] = {-90, -45, 45, 90, 180};

/// The model's time for a time of another performance of the same posture, from key moment to key moment.
double modelTimeOf(double time, const std::vector<ModelPerformance::Phase>& phases,
                   const ModelPerformance::Place& performed, const ModelPerformance& model,
                   const ModelPerformance::Place& place)
{
    double from = performed.begin, modelFrom = place.begin;
    const auto between = [&](double to, double modelTo) {
        return mix(modelFrom, modelTo, clampTo((time - from) / std::max(1e-9, to - from), 0, 1));
    };
    for (std::size_t k = 0; k <= place.lastPhase - place.firstPhase; ++k) {
        const double to = phases[performed.firstPhase + k].time;
        const double modelTo = model.phases[place.firstPhase + k].time;
        if (time <= to) return between(to, modelTo);
        from = to;
        modelFrom = modelTo;
    }
    return between(performed.end, place.end);
}

/// Whether a body stands on its feet otherwise than another, wherever in the room.
bool standsElsewhere(const BodyPoints& body, const BodyPoints& other)
{
    using enum Landmark;
    for (Landmark l : {LeftHeel, LeftToe, RightToe}) {
        const Eigen::Vector3d way = body[index(l)] - body[index(RightHeel)],
                              there = other[index(l)] - other[index(RightHeel)];
        if ((way - there).norm() > kOptions.standsElsewhere) return true;
    }
    return false;
}

} // namespace

PostureWays::PostureWays(const ModelPerformance& model, double azimuth, double distance, double rate)
    : m_model(model), m_azimuth(azimuth), m_distance(distance), m_rate(rate), m_places(model.places()),
      m_seen(model, azimuth, distance)
{
    for (std::size_t i = 0; i < m_places.size(); ++i)
        add(i, picturesOf(m_seen, rate, m_places[i].begin, m_places[i].end), {});
}

WarpingSegment& PostureWays::add(std::size_t place, PictureSeries pictures, Way way)
{
    const int begin = static_cast<int>(m_series.size());
    m_series.time.insert(m_series.time.end(), pictures.time.begin(), pictures.time.end());
    m_series.lines.insert(m_series.lines.end(), pictures.lines.begin(), pictures.lines.end());
    m_ways.push_back(way);
    WarpingSegment& segment = m_segments.emplace_back(
        WarpingSegment{begin, static_cast<int>(m_series.size()), static_cast<int>(place)});
    // Where postures alternate, one on the other side is another one: what a clip begins with is taken as
    // usual.
    segment.mayBegin = !way.otherSide && way.turned == 0;
    return segment;
}

void PostureWays::addTurned(const std::vector<bool>& places, const ModelPerformance* mirrored)
{
    const auto addOther = [&](const ModelPictures& seen, std::size_t place, Way way) {
        WarpingSegment& segment =
            add(place, picturesOf(seen, m_rate, m_places[place].begin, m_places[place].end), way);
        segment.entry = kOptions.otherWay;
        segment.alongside = m_segments[place].begin;
    };
    for (double turn : kTurns) {
        const ModelPictures seen(m_model, m_azimuth, m_distance, m_model, turn);
        for (std::size_t i = 1; i < m_places.size(); ++i)
            if (places[i]) addOther(seen, i, {false, turn});
    }
    for (std::size_t i = 1; mirrored && i < m_places.size(); ++i) {
        if (!places[i]) continue;
        const std::size_t phase = m_places[i].lastPhase;
        const double off = m_model.phases[phase].heading - mirrored->phases[phase].heading;
        addOther(ModelPictures(*mirrored, m_azimuth, m_distance, m_model, off), i, {true, 0});
    }
}

std::vector<PostureWays::SeenPart> PostureWays::seenIn(const ModelPerformance::Rearrangement& r,
                                                       const std::vector<bool>& places) const
{
    const auto isDoubted = [&](std::size_t part) { return places[r.parts[part].place]; };
    bool asked = false;
    for (std::size_t part = 1; part < r.parts.size(); ++part)
        asked |= isDoubted(part) && !r.isAsInForm(part);
    if (!asked) return {};
    const auto performance = r.perform();
    if (!performance) return {};
    std::vector<SeenPart> seen;
    bool onOtherFeet = false; // since what was changed last
    for (std::size_t part = 1; part < r.parts.size(); ++part) {
        const ModelPerformance::Place& span = performance->places[part];
        const ModelPerformance::Place& place = m_places[r.parts[part].place];
        const bool asInForm = r.isAsInForm(part);
        onOtherFeet = !asInForm ||
                      (onOtherFeet && standsElsewhere(performance->at(span.begin), m_model.at(place.begin)));
        if (!isDoubted(part) || !onOtherFeet) continue;
        SeenPart& one = seen.emplace_back(SeenPart{part, {}});
        for (double t = span.begin; t <= span.end; t += 1 / m_rate) {
            const double modelTime = modelTimeOf(t, performance->phases, span, m_model, place);
            one.pictures.time.push_back(modelTime);
            one.pictures.lines.push_back(m_seen.linesOf(performance->at(t), modelTime));
        }
    }
    return seen;
}

void PostureWays::addRearranged(const std::vector<bool>& places)
{
    const auto& all = m_model.rearranged;
    std::vector<std::vector<SeenPart>> seen(all.size());
    inParallel(all.size(), [&](std::size_t i) { seen[i] = seenIn(all[i], places); });
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t k = 0; k < seen[i].size(); ++k) {
            SeenPart& one = seen[i][k];
            const auto [place, otherSide, turned] = all[i].parts[one.part];
            const std::size_t after = all[i].parts[one.part - 1].place;
            const bool follows = k > 0 && seen[i][k - 1].part + 1 == one.part;
            WarpingSegment& segment = add(place, std::move(one.pictures), {otherSide, turned, true, after});
            segment.fromElsewhere = place != after + 1;
            if (!segment.fromElsewhere) segment.entry = kOptions.otherWay;
            if (follows) segment.after = static_cast<int>(m_segments.size()) - 2;
            segment.onlyAfter = follows && all[i].isAsInForm(one.part);
        }
}

} // namespace jl
