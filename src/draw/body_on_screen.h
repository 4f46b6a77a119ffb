#pragma once
#include "base/units.h"
#include "body/track.h"
#include <QTransform>
#include <algorithm>
#include <cmath>

namespace jl
{

/// Body points on the screen, with the body's size as a yardstick for line widths.
struct BodyOnScreen {
    const BodyFrame& body;
    const QTransform& map;
    Pixels size;

    BodyOnScreen(const BodyFrame& b, const QTransform& t) : body(b), map(t), size(0)
    {
        const QPointF hip = mid(Landmark::LeftHip), shoulder = mid(Landmark::LeftShoulder);
        size = std::max(20.0, std::hypot(shoulder.x() - hip.x(), shoulder.y() - hip.y()));
    }
    QPointF at(Landmark l) const
    {
        const auto& p = body.at(l);
        return map.map(QPointF(p.x(), p.y()));
    }
    QPointF of(Landmark left, Side s) const { return at(sided(left, s)); }
    QPointF mid(Landmark left) const { return 0.5 * (of(left, Side::Left) + of(left, Side::Right)); }
};

} // namespace jl
