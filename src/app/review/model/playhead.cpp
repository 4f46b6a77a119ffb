#include "app/review/model/playhead.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr int kPassing = 200; ///< ms after which a phase passed through is announced

} // namespace

Playhead::Playhead(QObject* parent) : QObject(parent)
{
    m_timer.setInterval(16);
    connect(&m_timer, &QTimer::timeout, this, &Playhead::tick);
    m_arrival.setInterval(kPassing);
    m_arrival.setSingleShot(true);
    connect(&m_arrival, &QTimer::timeout, this, &Playhead::arrive);
}

void Playhead::setScene(std::shared_ptr<const ReviewScene> bundle, Place place)
{
    setPlaying(false);
    m_scene = std::move(bundle);
    if (place == Place::First) m_time = 0;
    m_phase = nearestPhase();
    emit loaded();
    if (!m_scene) return;
    if (place == Place::Kept) {
        moveTo(m_time);
        return emit measureChosen();
    }
    // The first thing to look at: the first correction's clearest moment, with its measure chosen.
    const Review& review = m_scene->review;
    if (!review.teach.empty()) {
        const auto& first = review.teach.front();
        for (const Finding& f : review.findings)
            if (f.fault == first.fault && f.measure) m_measure = *f.measure;
        moveTo(first.time);
    } else if (!m_scene->keyTimes.empty()) {
        moveTo(m_scene->keyTimes.back().first);
    }
    emit measureChosen();
}

std::pair<std::size_t, std::size_t> Playhead::nearestPhase() const
{
    std::pair<std::size_t, std::size_t> best{0, 0};
    double nearest = 1e9;
    if (!m_scene) return best;
    const auto& postures = m_scene->review.postures;
    for (std::size_t i = 0; i < postures.size(); ++i) {
        for (std::size_t k = 0; k < postures[i].phases.size(); ++k) {
            const FoundPhase& p = postures[i].phases[k].student;
            if (!p.matched || std::abs(p.time - m_time) >= nearest) continue;
            nearest = std::abs(p.time - m_time);
            best = {i, k};
        }
    }
    return best;
}

const ReviewedPhase* Playhead::currentPhase() const
{
    if (!m_scene || m_scene->review.postures.empty()) return nullptr;
    const auto [i, k] = m_phase;
    return &m_scene->review.postures[i].phases[k];
}

void Playhead::moveTo(double time)
{
    if (!m_scene) return;
    m_time = std::clamp(time, 0.0, m_scene->student.track.duration());
    emit moved(m_time);
    arrive();
}

void Playhead::passTo(double time)
{
    if (!m_scene) return;
    m_time = std::clamp(time, 0.0, m_scene->student.track.duration());
    emit moved(m_time);
    if (!m_arrival.isActive() && nearestPhase() != m_phase) m_arrival.start();
}

void Playhead::arrive()
{
    m_arrival.stop();
    if (std::exchange(m_phase, nearestPhase()) != m_phase) emit phaseChanged();
}

void Playhead::stepFrames(int frames)
{
    if (!m_scene) return;
    setPlaying(false);
    const auto& track = m_scene->student.track;
    const auto now = static_cast<long>(track.nearest(m_time));
    const long last = static_cast<long>(track.frames.size()) - 1;
    moveTo(track.frames[static_cast<std::size_t>(std::clamp(now + frames, 0L, last))].time);
}

void Playhead::stepKeyMoment(int direction)
{
    if (!m_scene) return;
    setPlaying(false);
    const auto& keys = m_scene->keyTimes;
    if (direction > 0) {
        for (const auto& k : keys)
            if (k.first > m_time + 0.02) return moveTo(k.first);
    } else {
        for (auto k = keys.rbegin(); k != keys.rend(); ++k)
            if (k->first < m_time - 0.02) return moveTo(k->first);
    }
}

void Playhead::stepPosture(int direction)
{
    if (!m_scene) return;
    arrive();
    const auto& postures = m_scene->review.postures;
    for (auto i = static_cast<std::ptrdiff_t>(phase().first) + direction;
         i >= 0 && i < static_cast<std::ptrdiff_t>(postures.size()); i += direction)
        if (postures[static_cast<std::size_t>(i)].status != PostureStatus::LeftOut &&
            postures[static_cast<std::size_t>(i)].status != PostureStatus::NotFilmed)
            return goToPosture(static_cast<std::size_t>(i));
}

void Playhead::goToPosture(std::size_t posture)
{
    if (!m_scene || posture >= m_scene->review.postures.size()) return;
    const Finding* worst = nullptr;
    for (const Finding& f : m_scene->review.findings)
        if (f.posture == posture && (!worst || f.severity > worst->severity)) worst = &f;
    if (worst) return goToPhase(posture, worst->phase);
    const auto& phases = m_scene->review.postures[posture].phases;
    for (std::size_t k = phases.size(); k-- > 0;)
        if (phases[k].student.matched) return goToPhase(posture, k);
}

void Playhead::goToPhase(std::size_t posture, std::size_t phase)
{
    const FoundPhase& p = m_scene->review.postures[posture].phases[phase].student;
    if (!p.matched) return;
    setPlaying(false);
    moveTo(p.time);
}

void Playhead::setPlaying(bool playing)
{
    if (playing == m_timer.isActive() || (playing && !m_scene)) return;
    arrive();
    if (playing) {
        if (m_time >= m_scene->student.track.duration() - 0.05) m_time = 0;
        if (const ReviewedPhase* p = currentPhase()) m_loopRange = {p->student.begin, p->student.time + 0.3};
        m_playedTo = m_time;
        m_clock.start();
        m_timer.start();
    } else {
        m_timer.stop();
    }
    emit playingChanged(playing);
}

void Playhead::tick()
{
    m_playedTo += m_speed * static_cast<double>(m_clock.nsecsElapsed()) / 1e9;
    m_clock.restart();
    if (m_loop && m_playedTo > m_loopRange.second) m_playedTo = m_loopRange.first;
    const Track& track = m_scene->student.track;
    if (m_playedTo >= track.duration()) {
        moveTo(m_playedTo);
        return setPlaying(false);
    }
    if (track.nearest(m_playedTo) != track.nearest(m_time)) passTo(m_playedTo);
}

void Playhead::choose(Measure measure)
{
    m_measure = measure;
    emit measureChosen();
}

} // namespace jl
