#include "review/review_notes.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Says which part of the form a clip shows that begins or ends in the middle of it.
void noteCut(Review& review)
{
    const auto filmed = [](const ReviewedPosture& p) { return p.status != PostureStatus::NotFilmed; };
    const auto first = std::find_if(review.postures.begin(), review.postures.end(), filmed);
    const auto last = std::find_if(review.postures.rbegin(), review.postures.rend(), filmed);
    if (first == review.postures.end() ||
        (first == review.postures.begin() && last == review.postures.rbegin()))
        return;
    review.notes.emplace_back("The clip shows the form from \"" + first->name + "\" to \"" + last->name +
                              "\"; the rest of it is not judged.");
    const auto shown = std::count_if(review.postures.begin(), review.postures.end(), filmed);
    if (2 * shown < std::ssize(review.postures))
        review.notes.emplace_back(
            "That is less than half of it. If something else was performed, choose that form.");
}

/// Says what a moving camera, or one that cuts off feet or head, means for the values.
void noteCamera(Review& review, const Track& track, const Framing& framing)
{
    const std::string trouble = framingTrouble(framing);
    if (!trouble.empty())
        review.notes.push_back("In this clip " + trouble + "; what needs them can hardly be told there.");
    double most = 0;
    std::size_t lost = 0;
    for (const BodyFrame& f : track.frames) {
        most = std::max(most, f.cameraShift.norm());
        lost += f.cameraLost;
    }
    if (static_cast<double>(lost) > 0.1 * static_cast<double>(track.frames.size()))
        review.notes.emplace_back(
            "The camera could not be held against the background all the time; where it "
            "turned or moved along, values are less certain than stated.");
    else if (most > 0.004 * track.width)
        review.notes.emplace_back("The camera moved a little; the background was used to hold it still.");
}

} // namespace

void noteCircumstances(Review& review, const ReviewInput& input)
{
    if (!input.student->profile.height)
        review.notes.emplace_back(
            "The student's height is not known; lengths assume 1.68 m and are less certain.");
    for (const std::string& words : limitWords(input.limits))
        review.notes.emplace_back("Within the student's limits: " + words + ".");
    if (input.together)
        review.notes.push_back(std::string("Both clips were filmed at once, as ") +
                               (input.together->heard ? "their sound" : "the movements") +
                               " in them shows; their measures are read in space.");
    noteCut(review);
    const std::string hints = hintsLeftOut(input.student->camera);
    if (!hints.empty()) review.notes.push_back(hints);
    noteCamera(review, input.student->track, input.student->framing);
    if (input.student->track.model == "lite")
        review.notes.emplace_back("The small network was used; values are less certain.");
}

} // namespace jl
