#include "measure/moment_uncertainty.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of the uncertainty that an unusual pose or a fast change adds.
/// Chosen on: the 460 clips of seed 20260.
struct MomentUncertaintyOptions {
    /// Dissimilarity of the line-up above which errors grow. x0.5: u +13 %, 2u +1.4; x2: u -3 %, 2u -0.6.
    Ratio usualDissimilarity = 0.012;
    /// Of the dissimilarity, with which they grow. x0.5: u -2 %; x2: u +3 %.
    Ratio power = 0.3;
    /// Largest factor for an unusual pose. x0.5: u -3 %, 2u -0.6; x2: none.
    Ratio mostFactor = 2;
    /// Cosine of the trunk's lean (30 deg) from which it counts as folded. x0.5: none; x2: u +28 %, 2u +2.2.
    Ratio foldedCosine = 0.866;
    /// Factor for a folded trunk. x0.5 and x2: none.
    Ratio foldedFactor = 1.4;
    /// Standard deviation of a key moment. x0.5: u -3 %, 2u -0.5; x2: u +8 %, 2u +0.9.
    Seconds momentSpread = 0.15;
};
constexpr MomentUncertaintyOptions kOptions;

} // namespace

MomentUncertainty::MomentUncertainty(double dissimilarity, const BodyPoints& expected)
    : m_factor(
          std::clamp(std::pow(std::max(0.0, dissimilarity) / kOptions.usualDissimilarity, kOptions.power),
                     1.0, kOptions.mostFactor))
{
    if (JointGeometry{expected}.trunk().normalized().z() < kOptions.foldedCosine)
        m_factor *= kOptions.foldedFactor;
}

void MomentUncertainty::addChange(Measure m, double change, double seconds)
{
    if (!std::isfinite(change) || seconds == 0) return;
    if (measureInfo(m).unit == Unit::Degree) change = wrapDeg(change);
    double& spread = m_ofTime[static_cast<std::size_t>(m)];
    spread = std::max(spread, std::abs(change / seconds) * kOptions.momentSpread);
}

} // namespace jl
