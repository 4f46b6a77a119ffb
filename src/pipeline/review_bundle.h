#pragma once
#include "camera/clip_knowledge.h"
#include "pipeline/shipped_data.h"
#include "reading/floor_path.h"
#include "review/progress.h"

namespace jl
{

/// What a review is made from.
struct BundleRequest {
    Track student;       ///< as extracted
    ClipKnowledge known; ///< of the student's clip
    PersonProfile studentProfile;
    std::optional<Track> second;    ///< the same student from another side
    std::optional<Track> reference; ///< none: the built-in performer
    PersonProfile referenceProfile;
    std::string form = "sparrow-tail", school = "upright-broad", level = "forming";
    Yardstick yardstick = Yardstick::Reference;
    Limits limits;
    TeachingMemory memory;
    std::vector<ReviewRecord>
        earlier; ///< the student's reviews of this form, the oldest first; to compare with
};

/// Share of the weight on the front leg over a clip, 0 to 1, with gaps where it cannot be seen.
struct WeightCourse {
    std::vector<double> time;
    std::vector<std::optional<double>> share;
};

/// A finished review with everything that a screen shows beside it.
struct ReviewBundle {
    ClipReading student;
    std::optional<ClipReading> second;   ///< the student's other view, where it could be read
    std::optional<PairReading> together; ///< both views, where they were filmed at once
    std::optional<ClipReading> reference;
    Review review;
    WeightCourse studentWeight, referenceWeight;
    std::vector<std::pair<double, double>> keyTimes; ///< (student, reference) key moments, rising
    double referenceDuration = 0;
    std::vector<std::pair<double, double>> secondTimes; ///< (student, second) key moments, rising
    FloorPath studentPath, referencePath;               ///< the reference's in the student's size
    std::optional<ProgressSince> progress;              ///< since the last review; none: this is the first
    std::vector<ReviewRecord> earlier;                  ///< reviews of the student, the oldest first

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

Result<std::shared_ptr<const ReviewBundle>> makeBundle(const ShippedData& data, BundleRequest request);

} // namespace jl
