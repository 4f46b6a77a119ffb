#pragma once
#include "review/review.h"
#include <QString>

namespace jl
{

/// What lengths of a body are shown in from now on; the whole program has one choice, as it has one locale.
enum class LengthUnit { Centimetres, Inches };
void showLengthsIn(LengthUnit unit);
LengthUnit shownLengths();

/// Values as people read them: "+5.0 cm" or "+2.0 in", "67 deg" with the sign for degrees, "70 %"; decimals
/// by locale.
QString valueText(Measure measure, double value, bool withSign = false);
QString unitText(Measure measure);
/// The same for measures of a phase, with two standard uncertainties where u is given: "1.8 ± 0.2 s".
QString valueText(PhaseMeasure measure, double value, std::optional<double> u = {});
/// "allowed 45 to 80 deg"
QString bandText(Measure measure, const Band& band);
/// "5 cm past the toe" where a measure has words of its own, else its value.
QString spokenValue(Measure measure, double value);
/// "from the side, front leg nearer"
QString viewWords(View view);
/// "along the posture's direction", "in space"
QString planeWords(Plane plane);
/// "2.1 ± 0.2 of the student's foot lengths"; empty for what only renames its measure by the side of the
/// body.
QString derivedText(const DerivedValue& value);
/// "0:14.2"
QString timeText(double seconds);
/// "Push, arriving"
QString phaseTitle(const Review& review, std::size_t posture, std::size_t phase);

} // namespace jl
