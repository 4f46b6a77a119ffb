#include "app/review/share/review_exporter.h"
#include "app/jobs/bundle_choices.h"
#include "base/day.h"
#include "base/json_file.h"
#include "bundle/review_bundle.h"
#include "exchange/measures_file.h"
#include <QDir>
#include <QFileDialog>

namespace jl
{
namespace
{

struct ExportKind {
    QString title, name, ending, kind;
};

ExportKind kindOf(ReviewExport what)
{
    switch (what) {
    case ReviewExport::Review:
        return {ReviewExporter::tr("Export the review"), "review", ".json",
                ReviewExporter::tr("Review (*.json)")};
    case ReviewExport::Measures:
        return {ReviewExporter::tr("Save the measures"), "measures", ".csv",
                ReviewExporter::tr("Table (*.csv)")};
    case ReviewExport::Captions:
        return {ReviewExporter::tr("Save the captions"), "captions", ".vtt",
                ReviewExporter::tr("Captions (*.vtt)")};
    case ReviewExport::Bundle:
    case ReviewExport::BundleWithVideo:
        return {ReviewExporter::tr("Save the bundle"), "bundle", ".zip",
                ReviewExporter::tr("Bundle (*.zip)")};
    }
    return {};
}

std::vector<BundleChoice> choicesOf(const Library& library, qint64 review, const Review& made)
{
    std::vector<BundleChoice> choices;
    for (const auto* corrections : {&made.teach, &made.further})
        for (const Correction& c : *corrections) {
            const SlipChoice choice = library.choice(review, QString::fromStdString(c.fault));
            if (choice == SlipChoice{}) continue;
            choices.push_back(bundleChoice(c.fault, choice));
        }
    return choices;
}

} // namespace

ReviewExporter::ReviewExporter(OpenReview& review, const Context& context, ExportJobs& jobs, QWidget* parent)
    : QObject(parent), m_review(review), m_context(context), m_jobs(jobs), m_window(parent)
{
}

void ReviewExporter::ask(ReviewExport what, const Slip& slip)
{
    constexpr const char* kFolder = "export.folder"; // setting: where a review was saved last
    const ExportKind kind = kindOf(what);
    const QString folder = m_context.library.setting(kFolder);
    const QString name = QString::fromStdString(slipFileName(slip)) + " " + kind.name + kind.ending;
    QString file = QFileDialog::getSaveFileName(
        m_window, kind.title, QDir(folder.isEmpty() ? QDir::homePath() : folder).filePath(name), kind.kind);
    if (file.isEmpty()) return;
    if (!file.endsWith(kind.ending)) file += kind.ending;
    m_context.library.setSetting(kFolder, QFileInfo(file).absolutePath());
    save(what, slip, file);
}

void ReviewExporter::save(ReviewExport what, const Slip& slip, const QString& file)
{
    const auto scene = m_review.playhead().sharedScene();
    const auto start = [&](std::function<std::string()> text) {
        m_jobs.start(file, [text = std::move(text), file](const Progress&) {
            return writeText(file.toStdString(), text());
        });
    };
    switch (what) {
    case ReviewExport::Review:
        return start(m_review.reviewText());
    case ReviewExport::Measures:
        return start([scene] { return measuresCsv(scene->student); });
    case ReviewExport::Captions:
        return start(
            [scene, slip] { return captionsOf(scene->review, slip, scene->student.track.duration()); });
    case ReviewExport::Bundle:
    case ReviewExport::BundleWithVideo:
        return saveBundle(what == ReviewExport::BundleWithVideo, file);
    }
}

void ReviewExporter::saveBundle(bool withVideo, const QString& file)
{
    auto order = m_review.order();
    if (!order) return emit message(QString::fromStdString(order.error().message()));
    ReviewBundle bundle;
    bundle.studentName = m_review.studentName().toStdString();
    bundle.title = m_review.clip().title.toStdString();
    bundle.made = today();
    bundle.choices = choicesOf(m_context.library, m_review.choices().id, m_review.playhead().scene()->review);
    ReviewRequest& request = order->request;
    request.student.source = bundle.title;
    const auto take = [&](BundleRole role, const std::optional<ClipRow>& clip) {
        if (withVideo && clip) bundle.videos[role] = clip->file.toStdString();
    };
    take(BundleRole::Student, m_review.clip());
    if (request.second) {
        request.second->source = m_review.secondClip()->title.toStdString();
        take(BundleRole::Second, m_review.secondClip());
    }
    if (request.reference) {
        request.reference->source = m_review.referenceName().toStdString();
        take(BundleRole::Reference, m_review.referenceClip());
    }
    m_jobs.start(file,
                 [bundle = std::move(bundle), order = std::move(*order), text = m_review.reviewText(),
                  file](const Progress& progress) mutable -> Result<Done> {
                     const auto unpacked = unpackTracks(order);
                     if (!unpacked) return unpacked.error();
                     bundle.request = std::move(order.request);
                     bundle.review = text();
                     return writeBundle(bundle, file.toStdString(), progress);
                 });
}

} // namespace jl
