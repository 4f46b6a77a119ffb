#pragma once
#include "base/progress.h"
#include "form/line_up.h"
#include "pipeline/shipped_data.h"

namespace jl
{

/// How well a clip shows a form.
struct FormFit {
    std::string form;
    double unlikeness = 0; ///< a sample, on average; ordinary clips of a form have 0.006 to 0.03
    double shown = 0;      ///< share of the form's postures that the clip shows
    /// What forms are ranked by, the least first. A clip shows a part of a long form as well as the short
    /// form that is just that part: the one of which it shows more is meant.
    double score() const { return unlikeness * (2 - shown); }
};

/// A proposal where a recorded performance is to be cut into postures and phases.
struct ReferenceCut {
    struct Phase {
        std::string id;
        double time = 0;       ///< s, key moment
        double confidence = 0; ///< share of such key moments that lie within 0.15 s of the true one
    };
    struct Posture {
        std::string id;
        Side lead = Side::Right;
        double begin = 0, end = 0; ///< s
        PostureRun::Order order = PostureRun::Order::InPlace;
        double confidence = 0; ///< the mean of its phases'
        std::vector<Phase> phases;
    };
    FormFit fit;
    std::vector<Posture> postures;    ///< in the clip's order
    std::vector<std::string> leftOut; ///< of the form between the first and the last posture shown
    std::vector<FormFit> others;      ///< forms that fit too, the likeliest first; empty where one was named
};

/// How sure the time of a key moment is, whose surroundings are so unlike the model's: measured on 200
/// performances each of seeds 3001 and 3002 (docs/formats.md, "Cutting a reference").
double keyMomentConfidence(double unlikeness);

/// Proposes where to cut a performance of a form, or, where none is named, of the built-in form that fits
/// best. Fails where no form fits. The track is as extracted.
Result<ReferenceCut> proposeCut(const ShippedData& data, const Track& extracted, const std::string& school,
                                const std::optional<std::string>& form, const Progress& progress = {});

/// As docs/formats.md describes it.
std::string cutJson(const ReferenceCut& cut);

} // namespace jl
