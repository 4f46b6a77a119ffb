#include "render/field.h"
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector3d;
using Eigen::Vector3f;

double Solid::distance(const Vector3d& p) const
{
    if (ellipsoid) {
        const Vector3d local = axes.transpose() * (p - a);
        const Vector3d u = local.cwiseQuotient(radii), w = u.cwiseQuotient(radii);
        const double outer = u.norm(), slope = w.norm();
        return slope < 1e-9 ? -radii.minCoeff() : outer * (outer - 1) / slope;
    }
    const Vector3d line = b - a;
    const double share = std::clamp((p - a).dot(line) / line.squaredNorm(), 0.0, 1.0);
    return (p - a - share * line).norm() - (radiusA + share * (radiusB - radiusA));
}

SolidGroup::Sample SolidGroup::sample(const Vector3d& p) const
{
    double joined = 1e9, nearestDistance = 1e9;
    const Solid* nearest = nullptr;
    for (const Solid& s : solids) {
        const double d = s.distance(p);
        if (d < nearestDistance) {
            nearestDistance = d;
            nearest = &s;
        }
        // Polynomial smooth minimum.
        const double h = blend > 0 ? std::max(blend - std::abs(joined - d), 0.0) / blend : 0;
        joined = std::min(joined, d) - h * h * blend * 0.25;
    }
    return {joined, nearest};
}

namespace
{

/// Adds solids in a bone's own frame (right, forward, up), scaled with the body.
class Tailor
{
public:
    Tailor(const BodyShape& body, const Figure& figure) : m_figure(figure), m_scale(body.scale()) {}

    SolidGroup group;

    Vector3d at(Bone bone, double x, double y, double z) const
    {
        return m_figure.of(bone).place(Vector3d(x, y, z) * m_scale);
    }

    void cone(Bone bone, const Vector3f& colour, const Vector3d& a, const Vector3d& b, double ra, double rb)
    {
        Solid s;
        s.bone = bone;
        s.colour = colour;
        s.a = a;
        s.b = b;
        s.radiusA = ra * m_scale;
        s.radiusB = rb * m_scale;
        group.solids.push_back(s);
    }

    void ball(Bone bone, const Vector3f& colour, const Vector3d& centre, double rx, double ry, double rz)
    {
        Solid s;
        s.bone = bone;
        s.colour = colour;
        s.ellipsoid = true;
        s.a = centre;
        s.radii = Vector3d(rx, ry, rz) * m_scale;
        s.axes = m_figure.of(bone).rotation;
        group.solids.push_back(s);
    }

private:
    const Figure& m_figure;
    double m_scale;
};

SolidGroup jacket(const BodyShape& body, const Figure& f)
{
    Tailor t(body, f);
    t.group.blend = 0.05 * body.scale();
    const Dress& d = body.dress;
    const double g = body.build, loose = 0.012 * d.looseness;
    const Vector3f belt(.10f, .10f, .12f);
    using enum Bone;
    t.ball(Thorax, d.jacket, t.at(Thorax, 0, 0, -0.13), (0.150 * g + loose) * body.shoulderShare,
           0.108 * g + loose, 0.19);
    const Vector3d &left = f.at(Landmark::LeftShoulder), &right = f.at(Landmark::RightShoulder);
    const Vector3d inward = 0.03 * (right - left);
    t.cone(Thorax, d.jacket, left + inward, right - inward, 0.054 + loose, 0.054 + loose);
    t.cone(Thorax, d.jacket, t.at(Thorax, 0, -0.008, 0), t.at(Thorax, 0, -0.008, 0.045), 0.085, 0.060);
    t.cone(Thorax, d.skin, t.at(Thorax, 0, -0.008, 0.05), t.at(Head, 0, -0.015, -0.06), 0.055, 0.052);
    const Vector3d belly = 0.5 * (t.at(Thorax, 0, 0, -0.33) + t.at(Pelvis, 0, 0, 0.11));
    t.ball(Thorax, d.jacket, belly + Vector3d(0, 0, 0.05 * body.scale()), 0.135 * g + loose,
           0.098 * g + loose, 0.13);
    t.ball(Pelvis, d.jacket, t.at(Pelvis, 0, -0.005, 0.04), (0.156 * g + loose) * body.hipShare,
           0.112 * g + loose, 0.12);
    t.ball(Pelvis, d.jacket, t.at(Pelvis, 0, -0.005, -0.02), (0.168 * g) * body.hipShare, 0.124 * g, 0.11);
    t.ball(Pelvis, belt, t.at(Pelvis, 0, 0, 0.135), 0.146 * g + loose, 0.110 * g + loose, 0.022);
    for (Side side : {Side::Left, Side::Right}) {
        // The skirt of the jacket follows the thigh.
        const Vector3d &hip = f.at(sided(Landmark::LeftHip, side)),
                       &knee = f.at(sided(Landmark::LeftKnee, side));
        t.cone(sided(LeftThigh, side), d.jacket, hip + 0.05 * (knee - hip), hip + 0.30 * (knee - hip),
               0.094 * g + loose, 0.098 * g + loose);
        const Vector3d &shoulder = f.at(sided(Landmark::LeftShoulder, side)),
                       &elbow = f.at(sided(Landmark::LeftElbow, side)),
                       &wrist = f.at(sided(Landmark::LeftWrist, side));
        const double a = 0.5 + 0.5 * g;
        t.cone(sided(LeftUpperArm, side), d.jacket, shoulder, elbow, 0.052 * a + loose, 0.042 * a + loose);
        t.cone(sided(LeftForearm, side), d.jacket, elbow, wrist - 0.10 * (wrist - elbow), 0.043 * a + loose,
               0.033 * a + 1.5 * loose);
    }
    return t.group;
}

SolidGroup trousers(const BodyShape& body, const Figure& f)
{
    Tailor t(body, f);
    t.group.blend = 0.045 * body.scale();
    const Dress& d = body.dress;
    const double g = 0.4 + 0.6 * body.build, loose = 0.016 * d.looseness;
    using enum Bone;
    t.ball(Pelvis, d.trousers, t.at(Pelvis, 0, -0.005, 0), 0.148 * g * body.hipShare, 0.108 * g, 0.10);
    for (Side side : {Side::Left, Side::Right}) {
        const Vector3d &hip = f.at(sided(Landmark::LeftHip, side)),
                       &knee = f.at(sided(Landmark::LeftKnee, side)),
                       &ankle = f.at(sided(Landmark::LeftAnkle, side));
        t.cone(sided(LeftThigh, side), d.trousers, hip, knee, 0.092 * g + 0.6 * loose, 0.058 * g + loose);
        t.cone(sided(LeftShank, side), d.trousers, knee, ankle + 0.08 * (knee - ankle), 0.056 * g + loose,
               0.040 * g + 2 * loose);
        const Eigen::Matrix3d shank = f.of(sided(LeftShank, side)).rotation;
        t.ball(sided(LeftShank, side), d.trousers,
               knee + 0.33 * (ankle - knee) - shank.col(1) * 0.016 * body.scale(), 0.050 * g + loose,
               0.055 * g + loose, 0.13);
    }
    return t.group;
}

SolidGroup headOf(const BodyShape& body, const Figure& f)
{
    Tailor t(body, f);
    t.group.blend = 0.018 * body.scale();
    t.group.cell = 0.0048;
    const Dress& d = body.dress;
    const Vector3f lip = 0.6f * d.skin + Vector3f(.14f, .02f, .02f), white(.93f, .93f, .92f),
                   dark(.07f, .05f, .04f);
    const auto h = [&](double x, double y, double z) { return t.at(Bone::Head, x, y, z); };
    const auto ball = [&](const Vector3f& c, double x, double y, double z, double rx, double ry, double rz) {
        t.ball(Bone::Head, c, h(x, y, z), rx, ry, rz);
    };
    ball(d.skin, 0, -0.005, 0.012, 0.076, 0.094, 0.105);
    ball(d.skin, 0, 0.025, -0.052, 0.055, 0.068, 0.062);
    t.cone(Bone::Head, d.skin, h(0, 0.088, 0.012), h(0, 0.104, -0.024), 0.009, 0.014);
    ball(d.hair, 0, -0.022, 0.038, 0.083, 0.092, 0.092);
    ball(d.hair, 0, -0.045, -0.010, 0.074, 0.062, 0.080);
    if (d.longHair) ball(d.hair, 0, -0.095, 0.035, 0.036, 0.036, 0.036);
    t.cone(Bone::Head, lip, h(-0.02, 0.087, -0.066), h(0.02, 0.087, -0.066), 0.006, 0.006);
    for (double s : {-1.0, 1.0}) {
        ball(d.skin, s * 0.076, -0.005, -0.012, 0.012, 0.019, 0.030);
        ball(white, s * 0.032, 0.079, 0.010, 0.015, 0.012, 0.0085);
        ball(dark, s * 0.032, 0.0865, 0.010, 0.007, 0.006, 0.0075);
        t.cone(Bone::Head, dark, h(s * 0.018, 0.090, 0.031), h(s * 0.046, 0.080, 0.031), 0.0038, 0.0030);
    }
    return t.group;
}

SolidGroup handOf(const BodyShape& body, const Figure& f, Side side)
{
    Tailor t(body, f);
    t.group.blend = 0.012 * body.scale();
    t.group.cell = 0.0055;
    const Bone bone = sided(Bone::LeftHand, side), fingers = sided(Bone::LeftFingers, side);
    const double thumb = side == Side::Left ? -1 : 1;
    const Vector3f skin = body.dress.skin;
    const auto h = [&](double across, double along, double out) {
        return t.at(bone, thumb * across, along, out);
    };
    t.cone(bone, skin, h(0, -0.03, 0), h(0, 0.02, 0), 0.025, 0.024);
    t.ball(bone, skin, h(-0.003, 0.055, 0), 0.040, 0.050, 0.017);
    for (const auto& [across, length] :
         {std::pair{0.028, 0.165}, {0.009, 0.178}, {-0.011, 0.170}, {-0.030, 0.150}}) {
        const double half = 0.5 * (0.085 + length);
        t.cone(fingers, skin, h(0.95 * across, 0.085, 0), h(1.05 * across, half, 0.004), 0.0098, 0.0092);
        t.cone(fingers, skin, h(1.05 * across, half, 0.004), h(1.08 * across, length, 0.016), 0.0092, 0.0078);
    }
    t.cone(bone, skin, h(0.028, 0.030, 0), h(0.055, 0.070, 0), 0.013, 0.011);
    t.cone(bone, skin, h(0.055, 0.070, 0), h(0.060, 0.100, 0), 0.011, 0.009);
    return t.group;
}

SolidGroup shoeOf(const BodyShape& body, const Figure& f, Side side)
{
    Tailor t(body, f);
    t.group.blend = 0.02 * body.scale();
    t.group.cell = 0.0075;
    const Bone bone = sided(Bone::LeftFoot, side);
    const double out = side == Side::Left ? -1 : 1;
    const Vector3f shoe = body.dress.shoes;
    const auto cone = [&](double x1, double y1, double z1, double x2, double y2, double z2, double r1,
                          double r2) {
        t.cone(bone, shoe, t.at(bone, out * x1, y1, z1), t.at(bone, out * x2, y2, z2), r1, r2);
    };
    cone(0, -0.028, 0.050, 0, -0.005, 0.095, 0.040, 0.042);
    cone(0, -0.029, 0.037, -0.018, 0.125, 0.033, 0.036, 0.030);
    cone(0, -0.029, 0.037, 0.024, 0.110, 0.030, 0.034, 0.028);
    cone(-0.012, 0.130, 0.031, -0.008, 0.178, 0.026, 0.030, 0.024);
    cone(0, 0, 0.085, 0, 0.100, 0.045, 0.038, 0.026);
    return t.group;
}

} // namespace

std::vector<SolidGroup> dressedBody(const BodyShape& body, const Figure& figure)
{
    std::vector<SolidGroup> all{jacket(body, figure), trousers(body, figure), headOf(body, figure)};
    for (Side side : {Side::Left, Side::Right}) {
        all.push_back(handOf(body, figure, side));
        all.push_back(shoeOf(body, figure, side));
    }
    for (SolidGroup& g : all)
        g.cell *= body.scale();
    return all;
}

} // namespace jl
