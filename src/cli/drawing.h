#pragma once
#include <QGuiApplication>

namespace jl::cli
{

/// What fonts and pages need, as long as they are drawn; without a screen. One at a time.
class Drawing
{
public:
    Drawing();

private:
    int m_count = 1;
    char m_name[18] = "jolly-lantern-cli";
    char* m_arguments[2] = {m_name, nullptr};
    QGuiApplication m_application;
};

} // namespace jl::cli
