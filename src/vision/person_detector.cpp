#include "vision/person_detector.h"
#include "vision/network_store.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kThreshold = 0.5;
const char* const kBoxes = "Identity";    // 2254 x 12: box (x, y, w, h), then four key points
const char* const kScores = "Identity_1"; // 2254 logits

/// One anchor in the middle of every cell of three grids, with two, two and six anchors a cell.
std::vector<Eigen::Vector2d> anchors()
{
    std::vector<Eigen::Vector2d> all;
    for (const auto& [cells, perCell] : {std::pair{28, 2}, {14, 2}, {7, 6}})
        for (int y = 0; y < cells; ++y)
            for (int x = 0; x < cells; ++x)
                for (int k = 0; k < perCell; ++k)
                    all.emplace_back((x + 0.5) / cells, (y + 0.5) / cells);
    return all;
}

/// Whether two regions lie around one body.
bool same(const Region& a, const Region& b)
{
    return (a.centre - b.centre).norm() < 0.15 * std::max(a.size, b.size) &&
           std::min(a.size, b.size) > 0.6 * std::max(a.size, b.size);
}

} // namespace

Result<PersonDetector> PersonDetector::load()
{
    auto path = detectorFile();
    if (!path) return path.error();
    auto network = Network::load(*path, {kBoxes, kScores});
    if (!network) return network.error();
    return PersonDetector(std::move(*network));
}

PersonDetector::PersonDetector(Network network) : m_network(std::move(network)), m_anchors(anchors()) {}

std::vector<PersonDetector::Person> PersonDetector::findAll(const Frame& frame)
{
    const double w = frame.uprightWidth(), h = frame.uprightHeight();
    return findIn(frame, {{w / 2, h / 2}, std::max(w, h), 0});
}

std::vector<PersonDetector::Person> PersonDetector::findIn(const Frame& frame, const Region& whole)
{
    const int oversample = whole.size > 3 * kInputSize ? 4 : 2;
    sampleRegion(frame, whole, kInputSize, oversample, 1 / 127.5f, -1.f, m_network.input());
    m_network.run();
    const auto& boxes = m_network.output(kBoxes).values;
    const auto& scores = m_network.output(kScores).values;

    const double scale = whole.size; // network coordinates 0..1 to pixels
    const Eigen::Vector2d corner = whole.centre - Eigen::Vector2d::Constant(0.5 * whole.size);
    std::vector<Person> found;
    for (std::size_t i = 0; i < m_anchors.size(); ++i) {
        const double score = 1 / (1 + std::exp(-static_cast<double>(scores[i])));
        if (score < kThreshold) continue;
        const float* box = boxes.data() + 12 * i;
        const auto keyPoint = [&](int k) {
            return Eigen::Vector2d(
                corner +
                scale * (m_anchors[i] + Eigen::Vector2d(box[4 + 2 * k], box[5 + 2 * k]) / kInputSize));
        };
        found.push_back({Region::around(keyPoint(0), keyPoint(1)), score});
    }
    std::sort(found.begin(), found.end(),
              [](const Person& a, const Person& b) { return a.prominence() > b.prominence(); });
    std::vector<Person> people;
    for (const Person& p : found)
        if (std::none_of(people.begin(), people.end(),
                         [&](const Person& other) { return same(other.region, p.region); }))
            people.push_back(p);
    return people;
}

} // namespace jl
