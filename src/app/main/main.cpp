#include "app/desk/desk_page.h"
#include "app/jobs/demo_library.h"
#include "app/jobs/interface_benchmark.h"
#include "app/jobs/posture_sheet.h"
#include "app/review/bench/picture_view.h"
#include "app/review/page/review_page.h"
#include "app/shell/main_window.h"
#include "base/paths.h"
#include "exchange/track_pack.h"
#include <QAbstractButton>
#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QFile>
#include <QMessageBox>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>

namespace
{

using namespace jl;

int giveUp(const Error& error)
{
    std::fprintf(stderr, "%s\n", error.message().c_str());
    if (qEnvironmentVariable("QT_QPA_PLATFORM") != "offscreen" &&
        qEnvironmentVariableIsEmpty("LANTERN_NO_DIALOG"))
        QMessageBox::critical(nullptr, "Jolly Lantern", QString::fromStdString(error.message()));
    return error.exitCode();
}

/// One sheet of the given forms; without any, one picture of every posture.
int saveSheet(const ShippedData& data, SheetRequest request, const Theme& theme, const QString& file)
{
    if (request.forms.empty())
        for (const PostureStandard& p : data.standards.postures)
            request.forms.push_back(p.id);
    const auto picture = postureSheet(data, request, theme);
    if (!picture) return giveUp(picture.error());
    return picture->save(file) ? 0 : 3;
}

/// Waits until the review wished for (0: any) and its pictures are on the screen, chooses a measure by its
/// key if one is named, saves the window as a picture and quits.
void shoot(MainWindow& window, const QString& file, const QString& place, qint64 clip, const QString& measure)
{
    auto* timer = new QTimer(&window);
    timer->setInterval(200);
    auto* calm = new int(0);
    QObject::connect(timer, &QTimer::timeout, &window, [&window, file, place, clip, measure, calm] {
        const bool wished = clip == 0 || window.review().openClip() == clip;
        bool ready = place == "desk" || (wished && window.review().playhead().scene());
        if (place != "desk")
            for (const PictureView* view : window.review().findChildren<PictureView*>())
                ready = ready && (view->hasPicture() || !view->isVisible());
        if (!ready) return;
        auto* row = window.review().findChild<QAbstractButton*>("measure." + measure);
        if (++*calm == 1 && row) row->click();
        if (*calm < 10) return;
        if (place == "desk") window.go(MainWindow::Desk);
        QApplication::processEvents();
        const bool saved = window.grab().save(file);
        QApplication::exit(saved ? 0 : 3);
    });
    timer->start();
}

/// Measures the interface on the clip of a folder (clip.mp4, track.pack) and prints the figures.
int benchmarkTheInterface(const ShippedData& data, const Theme& theme, const QDir& given)
{
    const QString clipFile = given.filePath("clip.mp4"), trackFile = given.filePath("track.pack");
    QFile packed(trackFile);
    if (!packed.open(QIODevice::ReadOnly))
        return giveUp({Error::Kind::BadInput, "there is no packed track to measure with",
                       trackFile.toStdString(), "Start it through jolly-lantern-cli bench --ui."});
    const auto track = unpackTrack(packed.readAll().toStdString(), trackFile.toStdString());
    if (!track) return giveUp(track.error());
    QTemporaryDir folder;
    auto library = Library::open(folder.filePath("library"));
    if (!library) return giveUp(library.error());
    const auto clip = addBenchmarkClip(**library, clipFile, *track, data.bodies.front().height);
    if (!clip) return giveUp(clip.error());
    ExtractionQueue queue;
    MainWindow window({**library, data, theme, queue});
    window.resize(1280, 800);
    window.show();
    const auto figures = benchmarkInterface(window, *clip);
    if (!figures) return giveUp(figures.error());
    std::printf("%s\n", interfaceBenchmarkJson(*figures).c_str());
    return 0;
}

} // namespace

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    QApplication::setApplicationName("jolly-lantern");
    QApplication::setApplicationDisplayName("Jolly Lantern");
    QApplication::setApplicationVersion(LANTERN_VERSION);
    QCommandLineParser parser;
    parser.setApplicationDescription(
        QApplication::translate("main", "Review tai chi clips against a reference."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption folder("library", "Folder of the library.", "folder");
    const QCommandLineOption demo("demo", "Open the demo library; fill it when it is empty.");
    const QCommandLineOption dusk("dusk", "Dark colours for the class room.");
    const QCommandLineOption shot("shoot", "Save a picture of the window and quit.", "file");
    const QCommandLineOption place("place", "Place to open: desk or review.", "place");
    const QCommandLineOption bench("bench", "How the review shows the bodies: beside, over, figure or mend.",
                                   "way");
    const QCommandLineOption clip("clip", "Number of the clip to review.", "number");
    const QCommandLineOption measure("measure", "Key of the measure that the picture shows.", "key");
    const QCommandLineOption sheet(
        "sheet", "Save a picture of the key moments of the given forms or postures and quit.", "file");
    const QCommandLineOption views("views", "Camera directions of the sheet, deg.", "a,b");
    const QCommandLineOption school("school", "School of the sheet.", "school", "upright-broad");
    const QCommandLineOption benchUi(
        "bench-interface",
        "Measure the interface on the clip of a folder that jolly-lantern-cli bench --ui made, and quit.",
        "folder");
    parser.addOption(benchUi);
    parser.addOptions({folder, demo, dusk, shot, place, bench, clip, measure, sheet, views, school});
    parser.addPositionalArgument("clips", "Video files or bundles to bring in.", "[clips...]");
    parser.process(application);

    const Theme& theme = parser.isSet(dusk) ? Theme::dusk() : Theme::paper();
    dress(application, theme);
    QString path = parser.value(folder);
    if (path.isEmpty())
        path = QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/jolly-lantern/" +
               (parser.isSet(demo) ? "demo" : "library");
    path = QDir(path).absolutePath();
    auto data = ShippedData::load(dataFolder(), (path + "/standards").toStdString());
    QString trouble; // a mistake in one's own standards must not keep anybody from the library
    if (!data) {
        trouble = QString::fromStdString(data.error().message());
        data = ShippedData::load(dataFolder());
    }
    if (!data) return giveUp(data.error());
    if (parser.isSet(sheet)) {
        SheetRequest request;
        request.school = parser.value(school).toStdString();
        if (parser.isSet(views)) {
            request.views.clear();
            for (const QString& view : parser.value(views).split(',')) {
                bool isNumber = false;
                request.views.push_back(view.toDouble(&isNumber));
                if (!isNumber)
                    return giveUp({Error::Kind::WrongUse, "a camera direction is not a number", "--views",
                                   "Give degrees from the front, such as 0,90."});
            }
        }
        for (const QString& form : parser.positionalArguments())
            request.forms.push_back(form.toStdString());
        request.arrivalsOnly = request.forms.empty();
        request.columns = std::max(1, 6 / static_cast<int>(request.views.size()));
        return saveSheet(*data, request, theme, parser.value(sheet));
    }
    if (parser.isSet(benchUi)) return benchmarkTheInterface(*data, theme, QDir(parser.value(benchUi)));
    auto library = Library::open(path);
    if (!library) return giveUp(library.error());
    if (parser.isSet(demo)) {
        const auto filled = fillDemo(**library);
        if (!filled) return giveUp(filled.error());
    }
    ExtractionQueue queue;
    MainWindow window({**library, *data, theme, queue});
    window.show();
    window.restore();
    if (!trouble.isEmpty())
        window.showMessage(
            QApplication::translate("main", "Your own standards are left out until this is mended: %1")
                .arg(trouble));
    if (!parser.positionalArguments().isEmpty()) window.bringIn(parser.positionalArguments());
    if (parser.isSet(clip)) window.openReview(parser.value(clip).toLongLong());
    if (parser.value(place) == "desk") window.go(MainWindow::Desk);
    if (parser.isSet(bench)) {
        const bool mend = parser.value(bench) == "mend";
        const auto way =
            QStringList{"beside", "over", "figure"}.indexOf(mend ? "beside" : parser.value(bench));
        if (way < 0)
            return giveUp({Error::Kind::WrongUse, "there is no such way to show the bodies", "--bench",
                           "Use beside, over, figure or mend."});
        window.review().bench().setMode(static_cast<BenchMode>(way));
        if (mend) window.review().bench().setMending(true);
    }
    if (parser.isSet(shot))
        shoot(window, parser.value(shot), parser.value(place), parser.value(clip).toLongLong(),
              parser.value(measure));
    return QApplication::exec();
}
