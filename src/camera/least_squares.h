#pragma once
#include <Eigen/Core>
#include <functional>

namespace jl
{

/// The minimum of a sum of squared residuals r(x): x, r(x) and the normal matrix J^T J there. Its inverse is
/// the covariance of x when residuals are in standard deviations.
struct LeastSquares {
    Eigen::VectorXd unknowns, residuals;
    Eigen::MatrixXd normal;
};

/// Minimises |r(x)|^2 from a start by Levenberg-Marquardt (Ceres) with central differences. For up to some
/// twenty unknowns of about the same size. The count of residuals must not depend on x.
LeastSquares leastSquares(const std::function<Eigen::VectorXd(const Eigen::VectorXd&)>& residuals,
                          Eigen::VectorXd start, int mostRounds = 60);

/// A residual vector whose squared length is the pseudo-Huber loss of the given one: it grows linearly
/// instead of quadratically beyond three standard deviations.
template <class Vector>
Vector robust(const Vector& residual)
{
    const double n = residual.norm();
    if (n < 1e-9) return residual;
    return residual * (std::sqrt(2 * (std::sqrt(1 + n * n / 9) - 1)) * 3 / n);
}

} // namespace jl
