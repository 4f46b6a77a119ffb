#pragma once
#include <Eigen/Core>
#include <functional>

namespace jl
{

/// Where a least-squares search ended: the unknowns, what is left of each residual, and the normal matrix
/// there, whose inverse is the covariance of the unknowns when residuals are in standard deviations.
struct LeastSquares {
    Eigen::VectorXd unknowns, residuals;
    Eigen::MatrixXd normal;
};

/// Levenberg-Marquardt with forward differences: moves the unknowns until the sum of the squared residuals
/// no longer falls. For a dozen unknowns of about the same size; step is that of the differences.
LeastSquares leastSquares(const std::function<Eigen::VectorXd(const Eigen::VectorXd&)>& residuals,
                          Eigen::VectorXd start, int mostRounds = 60, double step = 1e-4);

/// A residual vector whose length counts less the larger it is (pseudo-Huber), from three standard
/// deviations on.
template <class Vector>
Vector robust(const Vector& residual)
{
    const double n = residual.norm();
    if (n < 1e-9) return residual;
    return residual * (std::sqrt(2 * (std::sqrt(1 + n * n / 9) - 1)) * 3 / n);
}

} // namespace jl
