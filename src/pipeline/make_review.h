#pragma once
#include "camera/clip_knowledge.h"
#include "pipeline/reference_cut.h"
#include "review/progress.h"

namespace jl
{

/// One clip of a review, as extracted, with what is known of it and of who performs in it.
struct ReviewClip {
    Track track;
    PersonProfile profile;
    StudentLimits limits; ///< of the performer: the model that the clip is lined up with keeps to them
    ClipKnowledge known;  ///< of the room, and points placed by hand
    std::string source;   ///< what messages call the clip; empty: as its track is called
};

/// What a review is made from.
struct ReviewRequest {
    ReviewClip student;
    /// The same student from another side; the track's own profile and limits are not used.
    std::optional<ReviewClip> second;
    std::optional<ReviewClip> reference;      ///< none: the built-in performer
    std::optional<ReferenceCut> referenceCut; ///< where the recorded reference is cut
    std::optional<Side> side;                 ///< that leads the form; none: found in the clip
    std::string form = "sparrow-tail", school = "upright-broad", level = "forming";
    Yardstick yardstick = Yardstick::Reference;
    TeachingMemory memory;       ///< of the student's earlier lessons
    std::vector<OwnFinding> own; ///< what the instructor saw herself
    std::vector<ReviewRecord>
        earlier; ///< the student's reviews of this form, the oldest first; to compare with
    std::vector<std::string> leftOut; ///< what the caller could not provide, with the reason
};

/// A review with the readings that it rests on.
struct FinishedReview {
    ClipReading student;
    std::optional<ClipReading> second;       ///< none: not asked for, or it cannot be read
    std::optional<PairMeasurement> together; ///< student and second, where they were filmed at once
    std::optional<ClipReading> reference;
    Review review;
    std::optional<ProgressSince> progress; ///< since the last of `earlier`; none: this is the first
    std::vector<ReviewRecord> earlier;
    /// What was asked for and could not be used, with the reason. The review's notes say it too.
    std::vector<std::string> leftOut;
};

/// Whether form, school and level exist and the cut goes with the reference: what can be checked without
/// tracks. makeReview() refuses the same.
Result<Done> checkRequest(const Standards& standards, const ReviewRequest& request);

/// When the clip is compared with the other forms, which takes seconds where the form fits badly.
enum class FormComparison { Now, Later };

/// Makes a review: reads the clips, lets two views agree on the order of postures, measures them together
/// where they were filmed at once, and judges. Command line, window and laboratory make reviews by this
/// function alone.
///
/// An error: an unknown form, school or level; a student's clip or a reference in which the form is not
/// found; a cut that does not fit the form. A note: a second view that cannot be read, two views that cannot
/// be measured together (each is then read by itself), repairs at times that show no body.
Result<FinishedReview> makeReview(const ShippedData& data, ReviewRequest request,
                                  FormComparison comparison = FormComparison::Now);

/// Fills in the review's doubt about the form, which FormComparison::Later leaves open.
void compareForms(const ShippedData& data, FinishedReview& finished, const Progress& progress = {});

} // namespace jl
