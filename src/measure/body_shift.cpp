#include "measure/body_shift.h"
#include "body/joint_geometry.h"
#include "body/mass_model.h"

namespace jl
{

using Eigen::Vector2d;

namespace
{

/// The centre of mass and the line from the rear foot's centre to the front one's, on the floor.
struct OverLine {
    Vector2d body, line;

    OverLine(const BodyPoints& points, Side lead)
    {
        const JointGeometry r{points};
        const Vector2d rear = r.footCentre(other(lead));
        body = centreOfMass(points).head<2>() - rear;
        line = r.footCentre(lead) - rear;
    }
    Vector2d square() const { return Vector2d(-line.y(), line.x()).normalized(); }
};

/// 0 up to one value, 1 from another on, straight between.
double fading(double x, double from, double to)
{
    return clampTo((x - from) / (to - from), 0, 1);
}

} // namespace

double bodyShift(const BodyPoints& seen, const BodyPoints& expected, Side lead, const Eigen::Vector3d& sight)
{
    constexpr double most = 0.3; // m
    const OverLine usual(expected, lead), now(seen, lead);
    const Vector2d away = sight.head<2>(), across(-away.y(), away.x());
    const double length = now.line.dot(across);
    // Fades, so that courses over time do not jump: the less of the line is seen, the less it counts.
    const double weight =
        fading(std::abs(length) / now.line.norm(), 0.5, 0.7) * fading(std::abs(length), 0.12, 0.3);
    if (weight == 0) return 0;
    const Vector2d beside = usual.body.dot(usual.square()) * now.square();
    const double share = (now.body - beside).dot(across) / length;
    const double wanted = (share * now.line + beside - now.body).dot(away);
    // Feet and half of the knees' way stay, so that the centre of mass goes less far than the body.
    const double goes = (centreOfMass(bodyMoved(seen, sight)) - centreOfMass(seen)).dot(sight);
    return weight * clampTo(wanted / goes, -most, most);
}

BodyPoints bodyMoved(BodyPoints points, const Eigen::Vector3d& by)
{
    const std::size_t hips = index(Landmark::LeftKnee), knees = index(Landmark::LeftAnkle);
    for (std::size_t i = 0; i < knees; ++i)
        points[i] += i < hips ? by : 0.5 * by;
    return points;
}

} // namespace jl
