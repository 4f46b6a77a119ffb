#include "app/review/share/export_strip.h"
#include "app/theme/label.h"
#include <QFileInfo>
#include <QHBoxLayout>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{

ExportStrip::ExportStrip(ExportJobs& jobs, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_jobs(jobs), m_theme(theme)
{
    setObjectName("exports");
    m_layout = new QVBoxLayout(this);
    m_layout->setContentsMargins(16, 2, 12, 2);
    m_layout->setSpacing(2);
    hide();
    connect(&jobs, &ExportJobs::started, this, &ExportStrip::add);
    connect(&jobs, &ExportJobs::progress, this, [this](int job, double share, const QString& left) {
        const auto line = m_lines.find(job);
        if (line == m_lines.end()) return;
        line->second.bar->setValue(static_cast<int>(1000 * share));
        line->second.left->setText(left);
    });
    for (const auto ended : {&ExportJobs::finished, &ExportJobs::failed, &ExportJobs::cancelled})
        connect(&jobs, ended, this, &ExportStrip::remove);
}

void ExportStrip::add(int job, const QString& name)
{
    const QString shortName = QFileInfo(name).fileName();
    Line line{new QWidget(this)};
    auto* row = new QHBoxLayout(line.row);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    row->addWidget(label(tr("Writing %1").arg(shortName), 1.0, QFont::DemiBold, m_theme.ink, line.row));
    line.bar = new QProgressBar(line.row);
    line.bar->setRange(0, 1000);
    line.bar->setTextVisible(false);
    line.bar->setFixedHeight(6);
    line.bar->setAccessibleName(tr("Progress of %1").arg(shortName));
    row->addWidget(line.bar, 1);
    line.left = label({}, 1.0, QFont::Normal, m_theme.quiet, line.row);
    line.left->setMinimumWidth(170);
    row->addWidget(line.left);
    auto* stop = new QPushButton(tr("Cancel"), line.row);
    stop->setObjectName(QString("exports.%1.cancel").arg(job));
    stop->setAccessibleName(tr("Cancel writing %1").arg(shortName));
    connect(stop, &QPushButton::clicked, this, [this, job] { m_jobs.cancel(job); });
    row->addWidget(stop);
    m_layout->addWidget(line.row);
    m_lines[job] = line;
    show();
}

void ExportStrip::remove(int job)
{
    const auto line = m_lines.find(job);
    if (line == m_lines.end()) return;
    line->second.row->deleteLater();
    m_lines.erase(line);
    setVisible(!m_lines.empty());
}

} // namespace jl
