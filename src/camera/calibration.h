#pragma once
#include "base/units.h"
#include "body/body_points.h"
#include "body/landmark_offsets.h"
#include "body/person_profile.h"
#include "body/track.h"
#include "camera/calibration_hints.h"
#include "camera/camera.h"
#include "camera/standing_picture.h"
#include <optional>
#include <string>

namespace jl
{

/// A camera found from the body itself, in the room frame of the opening stance (origin between the feet,
/// heading 0 where the performer faces), with the standard uncertainties that are carried on.
struct CalibratedCamera {
    Camera camera;
    /// Deg, the camera's direction from where the performer stands in the opening (0 in front, 90 on the
    /// right).
    Degrees azimuth = 0;
    Degrees azimuthSpread = 3;   ///< deg
    Degrees elevationSpread = 2; ///< deg
    Ratio scaleSpread = 0.015;   ///< relative
    Degrees rollSpread = 0.5;    ///< deg
    Metres height =
        PersonProfile::kUsualHeight; ///< m, of the person, from the profile or from lengths on the floor
    bool floorHolds = true, wallHolds = true; ///< false: contradicted by the body and left out
    Metres residual = 0;                      ///< rms distance of the fitted standing points, m at the body

    /// The camera's direction from a body that stands elsewhere than in the opening, deg.
    double azimuthFrom(const BodyPoints& body) const;
};

/// Says which hints the body contradicts; empty where all hold.
std::string hintsLeftOut(const CalibratedCamera& camera);

/// The roll of a camera that is surely held askew, as upright edges of the room tell it. None where it stands
/// about as level as cameras do: there the standing body determines the rest, as it did when the table of
/// accuracy was found.
std::optional<CameraRoll> askewBy(const Track& track);

/// A camera's direction from a body, deg (0 in front of the room's heading 0, 90 on its right).
double azimuthFrom(const Camera& camera, const BodyPoints& body);

/// Fits the camera to frames in which the performer stands at the opening of the form: the standing body of
/// the given height is known well enough in space to place the camera by its picture. `standing` holds the
/// standing points of the model performer scaled to the height; azimuthGuess is about the direction from
/// which the body is seen, wherever in the picture it stands, and comes from the line-up. Priors: ordinary
/// lens, camera roughly level, at 0.5 to 2 m height. Hints hold as well as they are usually given: lengths on
/// the floor to 1 cm and their ends to 2 pixels of 1280, the wall to a degree, the field of view to 2
/// percent. Lengths tell the person's height where the profile does not. Lengths or a wall that the standing
/// body contradicts are left out.
CalibratedCamera calibrate(const StandingPicture& picture, const BodyPoints& standing, double azimuthGuess,
                           const PersonProfile& profile, const LandmarkOffsets& offsets,
                           const CalibrationHints& hints = {});

} // namespace jl
