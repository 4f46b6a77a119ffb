#pragma once
#include "measure/accuracy_table.h"
#include <vector>

namespace jl
{

/// The spread of a new row for errors of values that geometry alone gives these variances: geometry narrowed
/// where it covers too much, a floor put under it where it covers too little. Aims as respread() does.
AccuracyTable::Entry fittedSpread(const std::vector<double>& errors, const std::vector<double>& variance);

/// The spread of a row of the table after another look at errors of values that were read with it: wider or
/// narrower by what 96 % of the true values within 2 u need; up to 97 %, where more than 1 % lie beyond 3 u,
/// and split between a floor and geometry as it is likeliest of the ways that leave both so. Where none
/// does, beyond 3 u only those count that are `certain` (all by default). Never narrower than by half, for
/// what was exact here is not always so. With no errors it stays.
AccuracyTable::Entry respread(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                              const std::vector<double>& u, const std::vector<bool>& certain = {});

/// The same for a measure of phases that is not fused (isFused()): a floor beside what each value is
/// uncertain by itself. It holds 96 % within 2 u and, so long as those do not become more than 97 %, 99 %
/// within 3 u. Of what is nearly always exactly right, like pauses counted, the few errors decide. With no
/// errors it stays.
AccuracyTable::Entry refloored(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                               const std::vector<double>& u);

} // namespace jl
