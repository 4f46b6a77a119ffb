#pragma once
#include "draw/theme.h"
#include "pipeline/review_scene.h"
#include "review/slip.h"
#include <QImage>

namespace jl
{

/// The moment of a correction in two pictures of one size, student and reference, cropped to the body, with
/// the construction that it is about drawn on both. Null where the moment shows no body.
struct SlipPictures {
    QImage student, reference;
};

/// The video files that pictures are taken from. Where one is empty, the body is drawn on paper instead; so
/// is the built-in performer.
struct PictureFiles {
    std::string student, reference;
};

/// Shape and size of a slip's pictures, pixels: about 300 to the inch on an A5 page, and few enough for the
/// lines of a construction to be seen.
inline constexpr int kSlipPictureWidth = 360, kSlipPictureHeight = 480;

/// One pair for each item of the slip. An error where a video file cannot be decoded.
Result<std::vector<SlipPictures>> slipPictures(const ReviewScene& scene, const Slip& slip,
                                               const PictureFiles& files, const Theme& theme);

} // namespace jl
