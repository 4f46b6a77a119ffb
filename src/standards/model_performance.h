#pragma once
#include "base/units.h"
#include "body/body_points.h"
#include "standards/stance_kind.h"
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace jl
{

/// A performance known in space: what clips are lined up with. Room frame, origin between the feet of the
/// opening stance, heading 0 where the performer faces then.
struct ModelPerformance {
    struct Phase {
        std::string posture, phase;
        StanceKind stance = StanceKind::Parallel;
        Seconds begin = 0; ///< s
        Seconds time = 0;  ///< s, key moment
        Degrees heading = 0;
        Side lead = Side::Right; ///< of this posture
    };
    Side lead = Side::Right;    ///< the side that leads the form
    Metres height = 1.70;       ///< m
    double framesPerSecond = 0; ///< frame i is at i / framesPerSecond
    std::vector<BodyPoints> frames;
    std::vector<Phase> phases;

    /// One posture of the form: its phases [firstPhase, lastPhase] and its time, s, from the key moment
    /// before it.
    struct Place {
        std::size_t firstPhase = 0, lastPhase = 0;
        Seconds begin = 0, end = 0;
    };
    /// The postures in order. The end of the last one takes in what follows it.
    std::vector<Place> places() const { return placesIn(phases, duration()); }

    /// The form's postures in another order or way, so that each is entered from another posture than in
    /// the form: the movement into and out of it differs then.
    struct Rearrangement {
        struct Part {
            std::size_t place = 0; ///< of the posture in the form
            bool otherSide = false;
            Degrees turned = 0; ///< deg, clockwise from above, from the form's direction
            bool isUsual() const { return !otherSide && turned == 0; }
        };
        struct Performed {
            std::vector<Phase> phases;
            std::vector<Place> places; ///< one for each part
            std::function<BodyPoints(double time)> at;
        };
        std::vector<Part> parts; ///< as performed, standing first
        /// None where not every one of these postures can follow the one before it. Takes time, the first
        /// time. For any thread.
        std::function<std::optional<Performed>()> perform;

        /// Whether a part is come to and done as in the form; parts[0] is standing.
        bool isAsInForm(std::size_t part) const
        {
            const Part &before = parts[part - 1], &now = parts[part];
            return now.place == before.place + 1 && before.isUsual() && now.isUsual();
        }
    };
    std::vector<Rearrangement> rearranged; ///< none for a recorded performance

    double duration() const { return static_cast<double>(frames.size() - 1) / framesPerSecond; }
    const BodyPoints& at(double time) const; ///< the nearest frame
    /// The phase whose key moment is nearest, as ClipReading::phaseAt() has it for clips.
    const Phase& phaseAt(double time) const;
    /// The points at a time, between frames as they move, for a body of another height.
    BodyPoints scaledTo(double height, double time) const;

    static std::vector<Place> placesIn(const std::vector<Phase>& phases, double duration);
};

} // namespace jl
