#pragma once
#include "app/jobs/export_jobs.h"
#include "app/theme/theme.h"
#include <QWidget>

class QLabel;
class QProgressBar;
class QVBoxLayout;

namespace jl
{

/// A line for each file that is being written: its name, how far it is, how long it will still take, and a
/// way to stop it. Hidden while nothing is written.
class ExportStrip : public QWidget
{
    Q_OBJECT

public:
    ExportStrip(ExportJobs& jobs, const Theme& theme, QWidget* parent = nullptr);

private:
    struct Line {
        QWidget* row = nullptr;
        QProgressBar* bar = nullptr;
        QLabel* left = nullptr;
    };
    void add(int job, const QString& name);
    void remove(int job);

    ExportJobs& m_jobs;
    const Theme& m_theme;
    QVBoxLayout* m_layout = nullptr;
    std::map<int, Line> m_lines;
};

} // namespace jl
