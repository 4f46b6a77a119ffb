#include "app/review/paint/words.h"
#include <QCoreApplication>
#include <QLocale>
#include <cmath>

namespace jl
{
namespace
{

QString tr(const char* text)
{
    return QCoreApplication::translate("Words", text);
}

LengthUnit theLengths = LengthUnit::Centimetres;

double perMetre()
{
    return theLengths == LengthUnit::Inches ? 1 / 0.0254 : 100;
}

QString lengthName()
{
    return theLengths == LengthUnit::Inches ? tr(" in") : tr(" cm");
}

double shown(Measure m, double value)
{
    return measureInfo(m).unit == Unit::Metre ? perMetre() * value : value;
}

QString number(Measure m, double value)
{
    const int decimals = measureInfo(m).unit == Unit::Metre && std::abs(shown(m, value)) < 20 ? 1 : 0;
    return QLocale().toString(shown(m, value), 'f', decimals);
}

/// Which part of a foot a share of the way from heel to ball is; empty for other measures.
QString partOfFoot(PhaseMeasure m, double share)
{
    if (m != PhaseMeasure::LeftPivotOn && m != PhaseMeasure::RightPivotOn) return {};
    return (share < 25 ? tr("heel") : share > 75 ? tr("ball") : tr("whole foot")) + ", ";
}

/// The end of a band: whole centimetres, but half an inch counts.
QString edge(Measure m, double value)
{
    const bool inches = measureInfo(m).unit == Unit::Metre && theLengths == LengthUnit::Inches;
    return inches ? number(m, value) : QLocale().toString(shown(m, value), 'f', 0);
}

} // namespace

void showLengthsIn(LengthUnit unit)
{
    theLengths = unit;
}

LengthUnit shownLengths()
{
    return theLengths;
}

QString unitText(Measure m)
{
    switch (measureInfo(m).unit) {
    case Unit::Metre:
        return lengthName();
    case Unit::Degree:
        return QStringLiteral("°");
    case Unit::PerCent:
        return tr(" %");
    }
    return {};
}

QString valueText(Measure m, double value, bool withSign)
{
    const QString sign = withSign && value > 0 ? "+" : "";
    return sign + number(m, value) + unitText(m);
}

QString valueText(PhaseMeasure m, double value, std::optional<double> u)
{
    const std::string_view unit = phaseMeasureInfo(m).unit;
    const double factor = unit == "m" ? perMetre() : unit == "m2" ? perMetre() * perMetre() : 1;
    const QString name = unit == "m"     ? lengthName()
                         : unit == "m2"  ? lengthName() + "²"
                         : unit == "deg" ? QStringLiteral("°")
                         : unit.empty()
                             ? QString()
                             : " " + QString::fromUtf8(unit.data(), static_cast<qsizetype>(unit.size()));
    const auto number = [&](double v) {
        const double size = std::abs(factor * v);
        return QLocale().toString(factor * v, 'f', size < 1 ? 2 : size < 20 ? 1 : 0);
    };
    return partOfFoot(m, value) + number(value) + (u ? " ± " + number(2 * *u) : QString()) + name;
}

QString bandText(Measure m, const Band& band)
{
    if (m == Measure::KneeLeadPastToe) return tr("allowed up to the toe");
    return tr("allowed %1 to %2").arg(edge(m, band.low), edge(m, band.high)) + unitText(m);
}

QString spokenValue(Measure m, double value)
{
    const double size = std::abs(value);
    switch (m) {
    case Measure::KneeLeadPastToe:
        return (value > 0 ? tr("%1 past the toe") : tr("%1 behind the toe")).arg(valueText(m, size));
    case Measure::KneeLeadTrack:
        return (value < 0 ? tr("%1 inside the foot") : tr("%1 outside the foot")).arg(valueText(m, size));
    case Measure::TrunkLeanForward:
        return (value >= 0 ? tr("%1 forward") : tr("%1 back")).arg(valueText(m, size));
    case Measure::TrunkLeanSide:
        return (value >= 0 ? tr("%1 to the right") : tr("%1 to the left")).arg(valueText(m, size));
    case Measure::WeightLead:
        return tr("%1 on the front leg").arg(valueText(m, value));
    default:
        return QString::fromUtf8(measureInfo(m).name.data(),
                                 static_cast<qsizetype>(measureInfo(m).name.size())) +
               " " + valueText(m, value);
    }
}

QString viewWords(View view)
{
    switch (view) {
    case View::Front:
        return tr("from the front");
    case View::Behind:
        return tr("from behind");
    case View::SideNear:
        return tr("from the side of the front leg");
    case View::SideFar:
        return tr("from the side of the rear leg");
    case View::Corner:
        return tr("from the corner");
    case View::Both:
        return tr("from both views at once");
    }
    return {};
}

QString planeWords(Plane plane)
{
    switch (plane) {
    case Plane::Along:
        return tr("along the posture's direction");
    case Plane::Across:
        return tr("across the posture's direction");
    case Plane::Space:
        return tr("in space");
    }
    return {};
}

QString derivedText(const DerivedValue& d)
{
    const int decimals = d.derivation == Derivation::InOwnLengths ? 1 : 0;
    const QString value = tr("%1 ± %2").arg(QLocale().toString(d.value.value, 'f', decimals),
                                            QLocale().toString(2 * d.value.u, 'f', decimals));
    switch (d.derivation) {
    case Derivation::InOwnLengths:
        return d.unit == DerivedUnit::FootLengths    ? tr("%1 of the student's foot lengths").arg(value)
               : d.unit == DerivedUnit::FootBreadths ? tr("%1 foot breadths").arg(value)
                                                     : tr("%1 shoulder widths").arg(value);
    case Derivation::ShankAngle:
        return tr("%1° seen from the ankle").arg(value);
    case Derivation::RoomHeading:
        return tr("pointing to %1°").arg(value);
    case Derivation::HeadingOffset:
        return tr("%1° from the nearest eighth of a turn").arg(value);
    case Derivation::OtherSide:
        break;
    }
    return {};
}

QString timeText(double seconds)
{
    const int minutes = static_cast<int>(seconds) / 60;
    return QString("%1:%2").arg(minutes).arg(QLocale().toString(seconds - 60 * minutes, 'f', 1), 4, '0');
}

QString phaseTitle(const Review& review, std::size_t posture, std::size_t phase)
{
    if (posture >= review.postures.size()) return {};
    const ReviewedPosture& p = review.postures[posture];
    const QString name = QString::fromStdString(p.name), part = QString::fromStdString(p.phases[phase].name);
    return name.compare(part, Qt::CaseInsensitive) == 0 ? name : name + ", " + part;
}

} // namespace jl
