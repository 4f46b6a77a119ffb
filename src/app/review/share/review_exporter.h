#pragma once
#include "app/jobs/export_jobs.h"
#include "app/review/model/open_review.h"
#include "review/slip.h"

namespace jl
{

/// What of a review can be saved as a file.
enum class ReviewExport { Review, Measures, Captions, Bundle, BundleWithVideo };

/// Saves the open review in the background: asks where, and names files by day, student and form.
class ReviewExporter : public QObject
{
    Q_OBJECT

public:
    ReviewExporter(OpenReview& review, const Context& context, ExportJobs& jobs, QWidget* parent);

    /// A review must be shown; `slip` is its slip as it stands.
    void ask(ReviewExport what, const Slip& slip);
    void save(ReviewExport what, const Slip& slip, const QString& file);

signals:
    void message(const QString& text);

private:
    void saveBundle(bool withVideo, const QString& file);

    OpenReview& m_review;
    Context m_context;
    ExportJobs& m_jobs;
    QWidget* m_window;
};

} // namespace jl
