#pragma once
#include <string_view>

namespace jl
{

/// How far an estimate can be trusted.
enum class Status {
    Ok,      ///< as exact as is promised of it
    Weak,    ///< less exact
    Unrated, ///< a value whose uncertainty nobody has measured; not to be shown
    Unseen,  ///< no value
};
std::string_view statusName(Status s); ///< "ok", "weak" or "unseen"; an unrated value counts as unseen

/// An estimated quantity with its standard uncertainty, both in the unit of what is estimated.
struct Estimate {
    double value = 0;
    double u = 0;
    Status status = Status::Unseen;
    /// What of `u` all values of the measure in one clip share, as the student's own body: it stays however
    /// many of them are taken together. u^2 holds its square.
    double common = 0;

    /// Whether there is a value with an uncertainty; otherwise `u`, and without isGiven() `value` too, mean
    /// nothing.
    bool seen() const { return status == Status::Ok || status == Status::Weak; }
    bool isGiven() const { return status != Status::Unseen; }
    bool isCertain() const { return status == Status::Ok; }
};

} // namespace jl
