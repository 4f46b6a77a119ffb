#pragma once
#include <QStringList>
#include <vector>

namespace jl
{

/// The statements that lead from each schema version to the next; a library's version is the number of steps
/// done.
const std::vector<QStringList>& schemaSteps();

} // namespace jl
