#pragma once
#include "pipeline/shipped_data.h"
#include "review/review.h"

namespace jl
{

/// What a review is made from.
struct BundleRequest {
    Track student;
    PersonProfile studentProfile;
    std::optional<Track> reference; ///< none: the built-in performer
    PersonProfile referenceProfile;
    std::string form = "sparrow-tail", school = "upright-broad", level = "forming";
};

/// Share of the weight on the front leg over a clip, 0 to 1, with gaps where it cannot be seen.
struct WeightCourse {
    std::vector<double> time;
    std::vector<std::optional<double>> share;
};

/// A finished review with everything that a screen shows beside it.
struct ReviewBundle {
    ClipReading student;
    std::optional<ClipReading> reference;
    Review review;
    WeightCourse studentWeight, referenceWeight;
    std::vector<std::pair<double, double>> keyTimes; ///< (student, reference) key moments, rising
    double referenceDuration = 0;

    /// The reference's time that belongs to a time of the student, and back: straight between key moments.
    double referenceTimeAt(double studentTime) const;
    double studentTimeAt(double referenceTime) const;
    /// The share of the front leg at a student time for drawing; one half where it is not known.
    double leadShareAt(double studentTime) const;
    double referenceLeadShareAt(double referenceTime) const;
};

Result<std::shared_ptr<const ReviewBundle>> makeBundle(const ShippedData& data, const BundleRequest& request);

} // namespace jl
