#include "camera/least_squares.h"
#include <Eigen/Dense>
#include <algorithm>

namespace jl
{

LeastSquares leastSquares(const std::function<Eigen::VectorXd(const Eigen::VectorXd&)>& residuals,
                          Eigen::VectorXd start, int mostRounds, double step)
{
    LeastSquares at{std::move(start), {}, {}};
    at.residuals = residuals(at.unknowns);
    double damping = 1e-2;
    bool moved = true;
    Eigen::MatrixXd jacobian(at.residuals.size(), at.unknowns.size());
    for (int round = 0; round < mostRounds; ++round) {
        if (moved) {
            for (Eigen::Index i = 0; i < at.unknowns.size(); ++i) {
                Eigen::VectorXd near = at.unknowns;
                near[i] += step;
                jacobian.col(i) = (residuals(near) - at.residuals) / step;
            }
            at.normal = jacobian.transpose() * jacobian;
        }
        Eigen::MatrixXd damped = at.normal;
        damped.diagonal() *= 1 + damping;
        const Eigen::VectorXd better = at.unknowns - damped.ldlt().solve(jacobian.transpose() * at.residuals);
        const Eigen::VectorXd left = residuals(better);
        const double gain = at.residuals.squaredNorm() - left.squaredNorm();
        moved = gain > 0;
        if (!moved) {
            damping *= 6;
            if (damping > 1e6) break;
            continue;
        }
        at.unknowns = better;
        at.residuals = left;
        damping = std::max(1e-7, damping / 4);
        if (gain < 1e-7) break;
    }
    return at;
}

} // namespace jl
