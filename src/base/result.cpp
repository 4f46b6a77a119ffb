#include "base/result.h"

namespace jl
{

std::string Error::message() const
{
    std::string text = where.empty() ? what : where + ": " + what;
    if (!text.empty() && text.back() != '.') text += '.';
    if (!remedy.empty()) text += ' ' + remedy;
    return text;
}

int Error::exitCode() const
{
    switch (kind) {
    case Kind::WrongUse:
        return 2;
    case Kind::BadInput:
        return 3;
    case Kind::NothingFound:
        return 4;
    case Kind::Cancelled:
        return 130;
    }
    return 3;
}

} // namespace jl
