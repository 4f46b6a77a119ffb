#include "measure/moment_uncertainty.h"
#include "base/angles.h"
#include "body/joint_geometry.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

// Found in the 460 rendered clips (docs/measuring.md).
constexpr double kUsualUnlikeness = 0.012, kPower = 0.3; ///< beyond it errors go with a power of it
constexpr double kLeastSure = 2;
constexpr double kFolded = 0.866; ///< cosine of 30 deg, of the trunk from upright
constexpr double kFoldedFactor = 1.4;
constexpr double kKnownTo = 0.15; ///< s, of a key moment, 1 sd

} // namespace

MomentUncertainty::MomentUncertainty(double dissimilarity, const BodyPoints& expected)
    : m_factor(std::clamp(std::pow(std::max(0.0, dissimilarity) / kUsualUnlikeness, kPower), 1.0, kLeastSure))
{
    if (JointGeometry{expected}.trunk().normalized().z() < kFolded) m_factor *= kFoldedFactor;
}

void MomentUncertainty::addChange(Measure m, double change, double seconds)
{
    if (!std::isfinite(change) || seconds == 0) return;
    if (measureInfo(m).unit == Unit::Degree) change = wrapDeg(change);
    double& spread = m_ofTime[static_cast<std::size_t>(m)];
    spread = std::max(spread, std::abs(change / seconds) * kKnownTo);
}

} // namespace jl
