#include "camera/least_squares.h"
#include <ceres/ceres.h>

namespace jl
{
namespace
{

using Eigen::VectorXd;
using Function = std::function<VectorXd(const VectorXd&)>;

/// A function of one block of unknowns as Ceres calls it.
struct Residuals {
    const Function& of;
    Eigen::Index unknowns;

    bool operator()(const double* const* x, double* out) const
    {
        const VectorXd r = of(Eigen::Map<const VectorXd>(x[0], unknowns));
        Eigen::Map<VectorXd>(out, r.size()) = r;
        return r.allFinite();
    }
};

} // namespace

LeastSquares leastSquares(const Function& residuals, VectorXd start, int mostRounds)
{
    const auto count = static_cast<int>(residuals(start).size()), unknowns = static_cast<int>(start.size());
    auto* cost = new ceres::DynamicNumericDiffCostFunction<Residuals>(new Residuals{residuals, unknowns});
    cost->AddParameterBlock(unknowns);
    cost->SetNumResiduals(count);
    ceres::Problem problem; // owns the cost
    problem.AddResidualBlock(cost, nullptr, start.data());
    ceres::Solver::Options options;
    options.linear_solver_type = ceres::DENSE_QR;
    options.max_num_iterations = mostRounds;
    options.function_tolerance = 1e-8; // the cost is in squared standard deviations
    options.logging_type = ceres::SILENT;
    ceres::Solver::Summary summary;
    ceres::Solve(options, &problem, &summary);

    LeastSquares at{std::move(start), VectorXd(count), {}};
    Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor> jacobian(count, unknowns);
    const double* const block[] = {at.unknowns.data()};
    double* jacobians[] = {jacobian.data()};
    cost->Evaluate(block, at.residuals.data(), jacobians);
    at.normal = jacobian.transpose() * jacobian;
    return at;
}

} // namespace jl
