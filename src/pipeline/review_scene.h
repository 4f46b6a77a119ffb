#pragma once
#include "base/units.h"
#include "pipeline/make_review.h"
#include "reading/floor_path.h"

namespace jl
{

/// Share of the weight on the front leg over a clip, 0 to 1, with gaps where it cannot be seen.
struct WeightCourse {
    std::vector<Seconds> time;
    std::vector<std::optional<double>> share;
};

/// A finished review with what a screen shows beside it: where the bodies are at each time, and which times
/// of its clips belong together.
struct ReviewScene : FinishedReview {
    WeightCourse studentWeight, referenceWeight;
    std::vector<std::pair<double, double>> keyTimes;    ///< (student, reference) key moments, rising, s
    Seconds referenceDuration = 0;                      ///< s
    std::vector<std::pair<double, double>> secondTimes; ///< (student, second) key moments, rising, s
    FloorPath studentPath, referencePath;               ///< the reference's in the student's size

    /// The bodies in the room at a time of the student's clip, m; where nobody is seen, as the model has it.
    BodyPoints studentBodyAt(double studentTime) const;
    BodyPoints referenceBodyAt(double studentTime) const;
    /// The reference in the student's size, standing where the student stands: the middles of their feet
    /// coincide, and so do the directions of their postures.
    BodyPoints referenceOverAt(double studentTime) const;

    /// The reference's time that belongs to a time of the student, and back: straight between key moments.
    double referenceTimeAt(double studentTime) const;
    double studentTimeAt(double referenceTime) const;
    /// The second view's time that belongs to a time of the student.
    double secondTimeAt(double studentTime) const;
    /// The share of the front leg at a student time for drawing; one half where it is not known.
    double leadShareAt(double studentTime) const;
    double referenceLeadShareAt(double referenceTime) const;
};

std::shared_ptr<const ReviewScene> sceneOf(FinishedReview finished);

} // namespace jl
