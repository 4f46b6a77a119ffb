#include "vision/body_tracker.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kPresent = 0.5;
constexpr double kOtherClothes = 1.2; ///< unlikeness from which on the detector is asked
constexpr double kStranger = 1.6;     ///< and from which on it is somebody else
constexpr double kSurely = 2.4;       ///< the same for one who stands just where the body stood a moment ago
constexpr double kHidden = 2;         ///< s after which clothes may have changed their look
constexpr double kAround = 1.5;       ///< of the body's region, in which it is looked for again
constexpr double kApart = 0.15;       ///< of a region, from which on two are around different people
constexpr std::size_t kMostPeople = 6;

bool plausible(const Region& region, const Frame& frame)
{
    const double largest = std::max(frame.uprightWidth(), frame.uprightHeight());
    const auto& c = region.centre;
    return region.size > 24 && region.size < 3 * largest && c.x() > -0.2 * largest &&
           c.y() > -0.2 * largest && c.x() < frame.uprightWidth() + 0.2 * largest &&
           c.y() < frame.uprightHeight() + 0.2 * largest;
}

/// How far a body may go and grow between two pictures, as a share of its region: what a step does, and some
/// more.
double leeway(double seconds)
{
    return 0.05 + 0.8 * std::clamp(seconds, 0.0, 2.0);
}

} // namespace

Result<BodyTracker> BodyTracker::load(LandmarkModel model)
{
    auto detector = PersonDetector::load();
    if (!detector) return detector.error();
    auto landmarks = LandmarkNetwork::load(model);
    if (!landmarks) return landmarks.error();
    return BodyTracker(std::move(*detector), std::move(*landmarks));
}

void BodyTracker::startAt(const BodyFrame& body)
{
    m_region = Region::around(body);
    m_last.reset();
}

void BodyTracker::goOnFrom(const Frame& frame, const BodyFrame& body)
{
    startAt(body);
    m_last = {body.time, *m_region};
    m_person = Appearance::of(frame, body);
}

void BodyTracker::forget()
{
    m_soughtSince.reset();
    m_region.reset();
    m_last.reset();
}

bool BodyTracker::isBody(const Reading& reading, const Frame& frame) const
{
    return reading.body.score >= kPresent && plausible(reading.next, frame);
}

double BodyTracker::oddness(const Reading& reading, const Appearance& looks) const
{
    double odd = m_person ? m_person->unlike(looks) : 0;
    if (!m_last) return odd;
    const Region& before = m_last->region;
    const double allowed = leeway(reading.body.time - m_last->time);
    odd += (reading.next.centre - before.centre).norm() / before.size / allowed;
    odd += 0.5 * std::abs(std::log(reading.next.size / before.size)) / allowed;
    return odd;
}

bool BodyTracker::goesOn(const Reading& reading, const Appearance& looks) const
{
    if (m_person && m_person->unlike(looks) > kOtherClothes) return false;
    if (!m_last) return true;
    const Region& before = m_last->region;
    const double allowed = leeway(reading.body.time - m_last->time);
    return (reading.next.centre - before.centre).norm() < allowed * before.size &&
           std::abs(std::log(reading.next.size / before.size)) < 4 * allowed;
}

bool BodyTracker::staysPut(const Reading& reading) const
{
    constexpr double moment = 0.2, near = 0.05; // s, and share of the region
    if (!m_last || reading.body.time - m_last->time > moment) return false;
    const Region &before = m_last->region, &now = reading.next;
    return (now.centre - before.centre).norm() < near * before.size &&
           std::abs(std::log(now.size / before.size)) < 2 * near;
}

std::optional<BodyTracker::Reading> BodyTracker::readTwice(const Frame& frame, const Region& rough)
{
    // A detector's region is rough; one more look from the network's own region sharpens it.
    const Reading first = m_landmarks.read(frame, rough);
    if (!isBody(first, frame)) return {};
    Reading reading = m_landmarks.read(frame, first.next);
    if (!isBody(reading, frame)) return {};
    return reading;
}

std::vector<PersonDetector::Person> BodyTracker::overlooked(const Frame& frame)
{
    std::vector<PersonDetector::Person> people;
    const auto lookIn = [&](const Eigen::Vector2d& centre, double size) {
        for (const auto& p : m_detector.findIn(frame, {centre, size, 0}))
            people.push_back(p);
    };
    const double width = frame.uprightWidth(), height = frame.uprightHeight();
    if (m_chosen) {
        for (double share : {0.5, 0.8})
            lookIn(*m_chosen, share * height);
        std::stable_sort(people.begin(), people.end(), [&](const auto& a, const auto& b) {
            return (a.region.centre - *m_chosen).norm() < (b.region.centre - *m_chosen).norm();
        });
    } else if (m_last) {
        lookIn(m_last->region.centre, kAround * m_last->region.size);
    } else {
        for (double part : {0.2, 0.5, 0.8})
            lookIn({part * width, 0.5 * height}, std::min(width, height));
    }
    if (people.size() > kMostPeople) people.resize(kMostPeople);
    return people;
}

std::vector<PersonDetector::Person> BodyTracker::farOff(const Frame& frame)
{
    constexpr double pause = 0.5; // s
    if (m_soughtFarOff && std::abs(frame.time - *m_soughtFarOff) < pause) return {};
    m_soughtFarOff = frame.time;
    const double width = frame.uprightWidth(), height = frame.uprightHeight();
    const double size = 0.5 * std::min(width, height);
    const auto centres = [&](double length) { // of windows that overlap by a half
        const int count = static_cast<int>(std::lround(2 * length / size)) - 1;
        std::vector<double> all;
        all.reserve(static_cast<std::size_t>(std::max(0, count)));
        for (int i = 0; i < count; ++i)
            all.push_back(0.5 * size + (length - size) * i / std::max(1, count - 1));
        return all;
    };
    std::vector<PersonDetector::Person> people;
    for (double y : centres(height))
        for (double x : centres(width))
            for (const auto& p : m_detector.findIn(frame, {{x, y}, size, 0}))
                people.push_back(p);
    std::sort(people.begin(), people.end(),
              [](const auto& a, const auto& b) { return a.prominence() > b.prominence(); });
    if (people.size() > kMostPeople) people.resize(kMostPeople);
    return people;
}

std::optional<BodyTracker::Reading> BodyTracker::likest(const std::vector<Reading>& readings,
                                                        const Frame& frame, bool alone) const
{
    const bool hidden = m_wasChosen || frame.time - (m_last ? m_last->time : *m_soughtSince) < kHidden;
    std::optional<Reading> best;
    double least = 0;
    for (const Reading& reading : readings) {
        const Appearance looks = Appearance::of(frame, reading.body);
        const double stranger = staysPut(reading) ? kSurely : kStranger;
        if ((hidden || !alone) && m_person->unlike(looks) > stranger) continue;
        const double odd = oddness(reading, looks);
        if (best && odd >= least) continue;
        least = odd;
        best = reading;
    }
    return best;
}

std::optional<BodyTracker::Reading> BodyTracker::lookAround(const Frame& frame,
                                                            const std::optional<Reading>& doubtful)
{
    if (!m_person) { // no person yet: the one at the chosen point, or the first that can be read
        const auto firstOf =
            [&](const std::vector<PersonDetector::Person>& people) -> std::optional<Reading> {
            for (const auto& p : people)
                if (auto reading = readTwice(frame, p.region)) return reading;
            return {};
        };
        const bool chosen = m_chosen.has_value();
        auto found = firstOf(chosen ? overlooked(frame) : m_detector.findAll(frame));
        m_chosen.reset();
        if (!found && !chosen) found = firstOf(farOff(frame));
        return found;
    }
    if (!m_soughtSince) m_soughtSince = frame.time;
    // What was followed into this frame stays as it was read, if it turns out to be the body after all.
    std::vector<Reading> readings;
    if (doubtful) readings.push_back(*doubtful);
    const auto add = [&](const std::vector<PersonDetector::Person>& people) {
        for (const auto& p : people) {
            const bool known = std::any_of(readings.begin(), readings.end(), [&](const Reading& r) {
                return (r.next.centre - p.region.centre).norm() <
                       kApart * std::max(r.next.size, p.region.size);
            });
            if (known) continue;
            if (const auto reading = readTwice(frame, p.region)) readings.push_back(*reading);
        }
    };
    add(m_detector.findAll(frame));
    m_alone = readings.size() < 2;
    if (auto found = likest(readings, frame, m_alone)) return found;
    add(overlooked(frame)); // beside somebody more prominent
    if (!m_last && readings.empty()) add(farOff(frame));
    m_alone = readings.size() < 2;
    return likest(readings, frame, m_alone);
}

BodyFrame BodyTracker::accept(const Reading& reading, const Frame& frame)
{
    constexpr float slowly = 0.02f,
                    relit = 0.05f; // clothes look different from another side, or in other light
    const Appearance looks = Appearance::of(frame, reading.body);
    if (!m_person)
        m_person = looks;
    else
        m_person->adapt(looks, m_person->unlike(looks) < kOtherClothes ? slowly : m_alone ? relit : 0);
    m_soughtSince.reset();
    m_region = reading.next;
    m_last = {frame.time, reading.next};
    return reading.body;
}

BodyFrame BodyTracker::follow(const Frame& frame)
{
    std::optional<Reading> doubtful;
    if (m_region) {
        const Reading reading = m_landmarks.read(frame, *m_region);
        if (isBody(reading, frame)) {
            if (goesOn(reading, Appearance::of(frame, reading.body))) return accept(reading, frame);
            doubtful = reading;
        }
    }
    if (const auto reading = lookAround(frame, doubtful)) return accept(*reading, frame);
    m_region.reset();
    BodyFrame nobody;
    nobody.time = frame.time;
    return nobody;
}

} // namespace jl
