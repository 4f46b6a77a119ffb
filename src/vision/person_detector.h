#pragma once
#include "vision/network.h"
#include "vision/sampler.h"
#include <optional>
#include <vector>

namespace jl
{

/// Finds the person in a whole picture: used to begin following, and again when the body was lost.
class PersonDetector
{
public:
    static Result<PersonDetector> load();

    struct Person {
        Region region;
        double score = 0; ///< 0 to 1

        double prominence() const { return region.size * score; }
    };

    /// Who is in the picture, each once, the most prominent (score times height in the picture) first. The
    /// network was made for one prominent person and overlooks others beside it.
    std::vector<Person> findAll(const Frame& frame);

    /// Who is in a part of the picture: there somebody less prominent is found too.
    std::vector<Person> findIn(const Frame& frame, const Region& window);

    /// The decoding of one anchor for tests: box centre, size and the two key points that place the region.
    static constexpr int kInputSize = 224;

private:
    explicit PersonDetector(Network network);
    Network m_network;
    std::vector<Eigen::Vector2d> m_anchors; ///< centres, 0 to 1
};

} // namespace jl
