#include "app/shell/context.h"
#include <QCoreApplication>

namespace jl
{

QString readOnlyWords()
{
    return QCoreApplication::translate(
        "Context", "This review is another instructor's. Take it over into your library to decide in it.");
}

} // namespace jl
