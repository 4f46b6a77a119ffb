#include "app/desk/desk_page.h"
#include "app/review/ladder_view.h"
#include "app/review/measure_row.h"
#include "app/review/picture_view.h"
#include "app/review/review_page.h"
#include "app/review/ribbon_view.h"
#include "app/shell/main_window.h"
#include "base/paths.h"
#include "pipeline/shipped_data.h"
#include "vision/extraction.h"
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest>

using namespace jl;

/// A real window on a real screen: a whole review by mouse and by key, closed and opened again.
class TestWindow : public QObject
{
    Q_OBJECT

private:
    QTemporaryDir m_dir;
    std::optional<ShippedData> m_data;
    qint64 m_clip = 0;

    struct Bench {
        std::unique_ptr<Library> library;
        ExtractionQueue queue;
        std::unique_ptr<MainWindow> window;

        template <class T>
        T* find(const char* name) const
        {
            auto* found = window->findChild<T*>(name);
            if (!found) qFatal("no %s", name);
            return found;
        }
    };
    std::unique_ptr<Bench> bench()
    {
        auto b = std::make_unique<Bench>();
        b->library = std::move(*Library::open(m_dir.filePath("library")));
        b->window = std::make_unique<MainWindow>(Context{*b->library, *m_data, Theme::paper(), b->queue});
        b->window->show();
        b->window->activateWindow();
        return b;
    }

private slots:
    void initTestCase()
    {
        QCOMPARE(QGuiApplication::platformName(), "xcb"); // a real window, not a stand-in
        dress(*qApp, Theme::paper());
        auto data = ShippedData::load(dataFolder());
        QVERIFY(data);
        m_data = std::move(*data);
        // A small class: one student whose clip was really extracted.
        auto library = std::move(*Library::open(m_dir.filePath("library")));
        const auto student = library->addStudent({0, "Ana Brook", 1.72, {}, "forming", "right hip stiff"});
        ClipRow row;
        row.title = "Monday, side";
        row.studentId = *student;
        const QString file = QString(TEST_DATA_DIR) + "/past-toe.mp4";
        m_clip = *library->addClip(file, row);
        ExtractionOptions options;
        options.networks = *networksFromName("lite"); // the fast one will do here
        const auto track = extractTrack(file.toStdString(), options);
        QVERIFY(track);
        QVERIFY(library->saveTrack(m_clip, *track));
    }

    void aReviewByMouse()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        b->window->restore();
        QCOMPARE(b->window->place(), MainWindow::Desk);
        QTest::mouseClick(b->find<QPushButton>("review"), Qt::LeftButton);
        QCOMPARE(b->window->place(), MainWindow::Review);
        const Playhead& playhead = b->window->review().playhead();
        QTRY_VERIFY_WITH_TIMEOUT(playhead.bundle(), 20000);
        QCOMPARE(b->find<QLabel>("review.student")->text(), "Ana Brook");

        // Pictures of both performers come from the video and from the built-in performer.
        QTRY_VERIFY_WITH_TIMEOUT(b->find<PictureView>("bench.student")->hasPicture(), 10000);
        QTRY_VERIFY_WITH_TIMEOUT(b->find<PictureView>("bench.reference")->hasPicture(), 20000);

        // Scrub on the student's time line.
        auto* ribbon = b->find<RibbonView>("ribbon");
        const int x = static_cast<int>(ribbon->xOf(5.0));
        QTest::mousePress(ribbon, Qt::LeftButton, {}, {x, 30});
        QTest::mouseMove(ribbon, {x + 40, 30});
        QTest::mouseRelease(ribbon, Qt::LeftButton, {}, {x + 40, 30});
        QVERIFY(playhead.time() > 4.9 && playhead.time() < 8);
        QVERIFY(!b->find<QLabel>("review.phase")->text().isEmpty());

        // Open another rung and choose a measure in it.
        auto* rung = b->find<QAbstractButton>("rung.feet");
        rung->click();
        QCOMPARE(b->find<LadderView>("ladder")->openedRung(), Rung::Feet);
        auto* length = b->find<MeasureRow>("measure.stance.length");
        QTRY_VERIFY(length->isVisible());
        QTest::mouseClick(length, Qt::LeftButton);
        QCOMPARE(playhead.measure(), Measure::StanceLength);
        QVERIFY(length->isChecked());
        QVERIFY(!length->accessibleDescription().isEmpty());

        // Accept the first correction.
        const auto& teach = playhead.bundle()->review.teach;
        QVERIFY(!teach.empty());
        const QByteArray name = "slip." + QByteArray::fromStdString(teach.front().fault) + ".accept";
        QTest::mouseClick(b->find<QPushButton>(name.constData()), Qt::LeftButton);
        QTRY_VERIFY(b->find<QPushButton>(name.constData())->isChecked());
        QVERIFY(b->find<QLabel>("slip.cautions")->text().contains("Stop with pain"));
    }

    void acceptedStaysAcceptedNextTime()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        b->window->restore(); // opens where the last session was
        QCOMPARE(b->window->place(), MainWindow::Review);
        QCOMPARE(b->window->review().openClip(), m_clip);
        const Playhead& playhead = b->window->review().playhead();
        QTRY_VERIFY_WITH_TIMEOUT(playhead.bundle(), 20000);
        const QByteArray name =
            "slip." + QByteArray::fromStdString(playhead.bundle()->review.teach.front().fault) + ".accept";
        QTRY_VERIFY(b->window->findChild<QPushButton*>(name.constData()));
        QVERIFY(b->find<QPushButton>(name.constData())->isChecked());
        // Accepting again takes it back; setting aside replaces it.
        QTest::mouseClick(b->find<QPushButton>(name.constData()), Qt::LeftButton);
        QTRY_VERIFY(!b->find<QPushButton>(name.constData())->isChecked());
    }

    void keysMoveAndPlay()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        b->window->openReview(m_clip);
        auto& review = b->window->review();
        const Playhead& playhead = review.playhead();
        QTRY_VERIFY_WITH_TIMEOUT(playhead.bundle(), 20000);
        const double begin = playhead.time();
        QTest::keyClick(&review, Qt::Key_Up);
        QVERIFY(playhead.time() < begin);
        const double key = playhead.time();
        QTest::keyClick(&review, Qt::Key_Period);
        QVERIFY(playhead.time() > key && playhead.time() < key + 0.1);
        QTest::keyClick(&review, Qt::Key_Comma);
        QVERIFY(std::abs(playhead.time() - key) < 0.05);
        QTest::keyClick(&review, Qt::Key_Space);
        QTRY_VERIFY(playhead.time() > key + 0.1);
        QTest::keyClick(&review, Qt::Key_Space);
        QVERIFY(!playhead.playing());
        QTest::keyClick(&review, Qt::Key_5);
        QTRY_COMPARE(b->find<LadderView>("ladder")->openedRung(), Rung::Trunk);
    }

    void anotherSchoolJudgesAnew()
    {
        const auto b = bench();
        b->window->openReview(m_clip);
        const Playhead& playhead = b->window->review().playhead();
        QTRY_VERIFY_WITH_TIMEOUT(playhead.bundle(), 20000);
        auto* school = b->find<QComboBox>("review.school");
        const int inclined = school->findData("inclined-straight");
        QVERIFY(inclined >= 0);
        school->setCurrentIndex(inclined);
        emit school->activated(inclined);
        QTRY_COMPARE_WITH_TIMEOUT(playhead.bundle()->review.school, std::string("inclined-straight"), 20000);
        school->setCurrentIndex(school->findData("upright-broad"));
        emit school->activated(school->currentIndex());
        QTRY_COMPARE_WITH_TIMEOUT(playhead.bundle()->review.school, std::string("upright-broad"), 20000);
    }
};

int main(int argc, char** argv)
{
    // Without a screen this test has nothing to show; the test command always provides one.
    if (qEnvironmentVariableIsEmpty("DISPLAY")) {
        std::fprintf(stderr, "test_window needs a screen: run it through ./lantern test\n");
        return 1;
    }
    QApplication application(argc, argv);
    TestWindow test;
    return QTest::qExec(&test, argc, argv);
}
#include "test_window.moc"
