#include "app/desk/desk_page.h"
#include "app/review/bench/figure_view.h"
#include "app/review/bench/picture_view.h"
#include "app/review/ladder/ladder_view.h"
#include "app/review/ladder/measure_row.h"
#include "app/review/page/review_page.h"
#include "app/review/page/student_limits_dialog.h"
#include "app/review/ribbon/path_view.h"
#include "app/review/ribbon/posture_list.h"
#include "app/review/ribbon/ribbon_view.h"
#include "small_class.h"
#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>

using namespace jl;

/// A real window on a real screen: a whole review by mouse and by key, closed and opened again.
class TestWindow : public QObject
{
    Q_OBJECT

private:
    SmallClass m_class;
    const qint64 &m_clip = m_class.clip, &m_second = m_class.second;
    std::unique_ptr<ClassRoom> bench() { return m_class.open(); }

private slots:
    void initTestCase()
    {
        QCOMPARE(QGuiApplication::platformName(), "xcb"); // a real window, not a stand-in
        m_class.gather();
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
        QTRY_VERIFY_WITH_TIMEOUT(playhead.scene(), 20000);
        QCOMPARE(b->find<QLabel>("review.student")->text(), "Ana Brook");

        // Pictures of both performers come from the video and from the built-in performer.
        QTRY_VERIFY_WITH_TIMEOUT(b->find<PictureView>("bench.student")->hasPicture(), 10000);
        QTRY_VERIFY_WITH_TIMEOUT(b->find<PictureView>("bench.reference")->hasPicture(), 60000);

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
        QCOMPARE(b->find<LadderView>("ladder")->openedRung(), std::optional(Rung::Feet));
        auto* length = b->find<MeasureRow>("measure.stance.length");
        QTRY_VERIFY(length->isVisible());
        QTest::mouseClick(length, Qt::LeftButton);
        QCOMPARE(playhead.measure(), Measure::StanceLength);
        QVERIFY(length->isChecked());
        QVERIFY(!length->accessibleDescription().isEmpty());

        // Accept the first correction.
        const auto& teach = playhead.scene()->review.teach;
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
        QTRY_VERIFY_WITH_TIMEOUT(playhead.scene(), 20000);
        const QByteArray name =
            "slip." + QByteArray::fromStdString(playhead.scene()->review.teach.front().fault) + ".accept";
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
        const Playhead& playhead = b->open(m_clip);
        auto& review = b->window->review();
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
        QTRY_COMPARE(b->find<LadderView>("ladder")->openedRung(), std::optional(Rung::Trunk));
    }

    void thePathLeadsThroughTheForm()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        const Playhead& playhead = b->open(m_clip);
        const Review& review = playhead.scene()->review;
        QVERIFY(review.postures.size() > 4);
        auto* path = b->find<PathView>("path");
        for (std::size_t posture : {std::size_t(1), review.postures.size() - 2}) {
            const auto lantern = path->lanternOf(posture);
            QVERIFY(lantern);
            QTest::mouseClick(path, Qt::LeftButton, {}, lantern->toPoint());
            QCOMPARE(playhead.phase().first, posture);
        }
        // The list follows, and leads.
        auto* list = b->find<PostureList>("path.list");
        QCOMPARE(list->topLevelItemCount(), static_cast<int>(review.postures.size()));
        QCOMPARE(list->indexOfTopLevelItem(list->currentItem()->parent()),
                 static_cast<int>(review.postures.size()) - 2);
        QTreeWidgetItem* second = list->topLevelItem(2);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(second).center());
        QCOMPARE(playhead.phase().first, std::size_t(2));
        QTest::keyClick(&b->window->review(), Qt::Key_PageDown);
        QCOMPARE(playhead.phase().first, std::size_t(3));
        QTest::keyClick(&b->window->review(), Qt::Key_PageUp);
        QCOMPARE(playhead.phase().first, std::size_t(2));
    }

    void theBenchHasThreeWays()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        b->open(m_clip);
        auto& review = b->window->review();
        auto *student = b->find<PictureView>("bench.student"),
             *reference = b->find<PictureView>("bench.reference");
        QTRY_VERIFY_WITH_TIMEOUT(student->hasPicture(), 10000);
        QVERIFY(student->isVisible() && reference->isVisible());
        const QImage beside = student->grab().toImage();
        QTest::keyClick(&review, Qt::Key_O);
        QTRY_COMPARE(review.bench().mode(), BenchMode::Over);
        QTRY_VERIFY(!reference->isVisible() && student->isVisible());
        QVERIFY(student->width() > beside.width() * 3 / 2); // it has the whole bench
        QTest::keyClick(&review, Qt::Key_F);
        auto* figure = b->find<FigureView>("bench.room");
        QTRY_VERIFY(figure->isVisible() && !student->isVisible());
        const QImage before = figure->grab().toImage();
        const double azimuth = figure->azimuth();
        QTest::mousePress(figure, Qt::LeftButton, {}, {100, 100});
        QTest::mouseMove(figure, {200, 100});
        QTest::mouseRelease(figure, Qt::LeftButton, {}, {200, 100});
        QVERIFY(figure->azimuth() > azimuth + 40);
        QVERIFY(figure->grab().toImage() != before);
        QTest::keyClick(&review, Qt::Key_T);
        QCOMPARE(figure->azimuth(), 0.0);
        QTest::keyClick(&review, Qt::Key_T);
        QCOMPARE(figure->azimuth(), 90.0);
        QTest::keyClick(&review, Qt::Key_T);
        QVERIFY(figure->elevation() > 80);
        QTest::mouseClick(b->find<QPushButton>("bench.mode.beside"), Qt::LeftButton);
        QTRY_VERIFY(reference->isVisible());
    }

    void theSlipIsTheInstructors()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        b->open(m_clip);
        auto& review = b->window->review();
        const Correction first = review.playhead().scene()->review.teach.front();
        const QString fault = QString::fromStdString(first.fault), card = "slip." + fault + ".";
        const qint64 row = b->library->reviewOf({0, m_clip, {}, {}, {}})->id;
        const auto choice = [&] { return b->library->choice(row, fault); };
        const auto button = [&](const char* name) { return b->window->findChild<QPushButton*>(card + name); };
        QTRY_VERIFY(button("more"));
        button("more")->click();
        QTRY_VERIFY(button("reword"));

        // In other words, kept and taken back.
        QTest::mouseClick(button("reword"), Qt::LeftButton);
        QTRY_VERIFY(b->window->findChild<QPlainTextEdit*>("slip.cue"));
        auto* text = b->find<QPlainTextEdit>("slip.cue");
        text->setPlainText("Sit like on a bench, then reach.");
        auto* keep = b->find<QPushButton>("slip.cue.keep");
        QTRY_VERIFY(keep->isVisible());
        keep->click(); // wherever the slip is scrolled to
        QTRY_VERIFY(b->window->findChild<QLabel*>(card + "text"));
        QTRY_COMPARE(b->window->findChild<QLabel*>(card + "text")->text(),
                     "Sit like on a bench, then reach.");
        QCOMPARE(choice().cue, "Sit like on a bench, then reach.");
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(b->window->findChild<QLabel*>(card + "text")->text(), QString::fromStdString(first.cue));
        QVERIFY(choice().cue.isEmpty());

        // By key: accept, take back, park until a day.
        QTest::keyClick(&review, Qt::Key_Return);
        QTRY_COMPARE(choice().decision, Decision::Accepted);
        QTRY_VERIFY(b->find<QPushButton>("slip.plan")->isEnabled());
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(choice().decision, Decision::Proposed);
        QTest::keyClick(&review, Qt::Key_Backspace);
        QTRY_COMPARE(choice().decision, Decision::Parked);
        QVERIFY(choice().due > QDate::currentDate());
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(choice().decision, Decision::Proposed);

        // Set aside with its reason.
        QTRY_VERIFY(b->window->findChild<QAction*>(card + "variant"));
        b->window->findChild<QAction*>(card + "variant")->trigger();
        QTRY_COMPARE(choice().decision, Decision::SetAside);
        QCOMPARE(choice().reason, QString("variant"));
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(choice().decision, Decision::Proposed);
    }

    void aSecondViewShowsMore()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        const Playhead& playhead = b->open(m_clip);
        const auto seen = [&] {
            int n = 0;
            for (const ReviewedPosture& p : playhead.scene()->review.postures)
                for (const ReviewedPhase& phase : p.phases)
                    for (const JudgedValue& v : phase.values)
                        n += v.status != Status::Unseen;
            return n;
        };
        const int alone = seen();
        auto* other = b->find<QPushButton>("bench.other");
        QVERIFY(!other->isVisible());
        auto* second = b->find<QComboBox>("review.second");
        const int row = second->findData(m_second);
        QVERIFY(row > 0);
        second->setCurrentIndex(row);
        emit second->activated(row);
        QTRY_VERIFY_WITH_TIMEOUT(playhead.scene()->second.has_value(), 20000);
        QVERIFY2(seen() > alone, qPrintable(QString("%1 with one view, %2 with two").arg(alone).arg(seen())));
        QTRY_VERIFY(other->isVisible());
        auto* picture = b->find<PictureView>("bench.student");
        QTRY_VERIFY_WITH_TIMEOUT(picture->hasPicture(), 10000);
        const QImage side = picture->grab().toImage();
        QTest::keyClick(&b->window->review(), Qt::Key_V);
        QTRY_VERIFY(other->isChecked());
        QTRY_VERIFY_WITH_TIMEOUT(picture->hasPicture() && picture->grab().toImage() != side, 10000);
        second->setCurrentIndex(0);
        emit second->activated(0);
        QTRY_VERIFY_WITH_TIMEOUT(!playhead.scene()->second.has_value(), 20000);
        QCOMPARE(seen(), alone);
    }

    void limitsCapWhatIsAsked()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        const Playhead& playhead = b->open(m_clip);
        auto* limits = b->find<QPushButton>("review.limits");
        QCOMPARE(limits->text(), "right hip stiff"); // only words so far
        QTimer::singleShot(0, this, [&] {
            auto* dialog = b->window->findChild<StudentLimitsDialog*>();
            QVERIFY(dialog);
            dialog->findChild<QCheckBox*>("limits.knee")->setChecked(true);
            dialog->findChild<QSpinBox*>("limits.knee.degrees")->setValue(40);
            QTest::mouseClick(dialog->findChild<QPushButton*>("limits.keep"), Qt::LeftButton);
        });
        QTest::mouseClick(limits, Qt::LeftButton);
        QVERIFY(limits->text().contains("40"));
        const auto capped = [&] {
            for (const ReviewedPosture& p : playhead.scene()->review.postures)
                for (const ReviewedPhase& phase : p.phases)
                    for (const JudgedValue& v : phase.values)
                        if (v.capped) return true;
            return false;
        };
        QTRY_VERIFY_WITH_TIMEOUT(capped(), 20000);
        QCOMPARE(b->library->students().front().bodyLimits.kneeFlexion, std::optional(40.0));
    }

    void anotherSchoolJudgesAnew()
    {
        const auto b = bench();
        const Playhead& playhead = b->open(m_clip);
        auto* yardstick = b->find<QComboBox>("review.yardstick");
        QVERIFY(!yardstick->isEnabled()); // the built-in performer keeps to the standard
        QCOMPARE(yardstick->currentData().toString(), QString("standard"));
        auto* school = b->find<QComboBox>("review.school");
        const int inclined = school->findData("inclined-straight");
        QVERIFY(inclined >= 0);
        school->setCurrentIndex(inclined);
        emit school->activated(inclined);
        QTRY_COMPARE_WITH_TIMEOUT(playhead.scene()->review.school, std::string("inclined-straight"), 20000);
        school->setCurrentIndex(school->findData("upright-broad"));
        emit school->activated(school->currentIndex());
        QTRY_COMPARE_WITH_TIMEOUT(playhead.scene()->review.school, std::string("upright-broad"), 20000);
    }

    void aLongClipIsLookedThroughWhileItIsMeasured()
    {
        const auto b = bench();
        const ClipRow clip = *b->library->clip(m_clip);
        Track track = *b->library->track(m_clip);
        const std::vector<BodyFrame> once = track.frames;
        const double duration = track.duration();
        for (int again = 1; again < 40; ++again)
            for (BodyFrame f : once) {
                f.time += again * (duration + 1 / track.framesPerSecond);
                track.frames.push_back(f);
            }
        ClipRow row;
        row.title = "A long evening";
        row.studentId = clip.studentId;
        const qint64 id = *b->library->addClip(clip.file, row);
        QVERIFY(b->library->saveTrack(id, track));
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        b->open(m_clip);

        QSignalSpy opened(&b->window->review(), &ReviewPage::opened);
        b->window->openReview(id);
        auto* picture = b->find<PictureView>("waiting.picture");
        QTRY_VERIFY(picture->isVisible() && picture->hasPicture());
        QVERIFY(opened.isEmpty());
        QVERIFY(!b->find<LadderView>("ladder")->isVisible()); // nothing of the review before
        b->find<QAction>("export.review")->trigger();         // nor is it saved under this clip's name
        QTRY_VERIFY(b->find<QLabel>("message")->text().contains("no review to export"));
        const QImage first = picture->grab().toImage();
        QTest::keyClick(b->find<QSlider>("waiting.slider"), Qt::Key_PageUp);
        QTRY_VERIFY(picture->grab().toImage() != first);
        QTRY_COMPARE_WITH_TIMEOUT(opened.count(), 1, 60000);
        QTRY_VERIFY(!picture->isVisible());
        QVERIFY(b->find<LadderView>("ladder")->isVisible());
        QCOMPARE(b->window->review().playhead().scene()->student.track.frames.size(), 40 * once.size());
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
