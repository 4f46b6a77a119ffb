#include "app/jobs/interface_benchmark.h"
#include "app/review/bench/mending_view.h"
#include "app/review/ladder/ladder_view.h"
#include "app/review/page/review_page.h"
#include "app/shell/keys_dialog.h"
#include "small_class.h"
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>

using namespace jl;

/// Looking closely, putting right what was seen wrongly, and a review by key alone, in a real window.
class TestMending : public QObject
{
    Q_OBJECT

private:
    SmallClass m_class;
    const qint64& m_clip = m_class.clip;
    std::unique_ptr<ClassRoom> bench() { return m_class.open(); }

private slots:
    void initTestCase()
    {
        QCOMPARE(QGuiApplication::platformName(), "xcb"); // a real window, not a stand-in
        m_class.gather();
    }

    /// A joint that is dragged is measured anew where it was put; it can be taken back, and is kept apart.
    void aJointIsPutInPlace()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        const Playhead& playhead = b->open(m_clip);
        auto& review = b->window->review();
        auto* picture = b->find<MendingView>("bench.student");
        QTRY_VERIFY_WITH_TIMEOUT(picture->hasPicture(), 10000);
        const double moment = playhead.time();
        const auto kneeBend = [&] {
            const auto [i, k] = playhead.phase();
            return playhead.scene()->review.postures[i].phases[k].values[0].value.value;
        };
        const double before = kneeBend();
        QTest::keyClick(&review, Qt::Key_M);
        QTRY_COMPARE(picture->tool(), MendingView::Tool::Points);
        QTRY_VERIFY(b->find<QPushButton>("mend.points")->isVisible());
        QVERIFY(!b->find<QPushButton>("mend.clear")->isEnabled());

        const Landmark knee =
            playhead.scene()->student.leadAt(moment) == Side::Left ? Landmark::LeftKnee : Landmark::RightKnee;
        const QPoint from = picture->placeOf(knee).toPoint();
        QTest::mousePress(picture, Qt::LeftButton, {}, from);
        QTest::mouseMove(picture, from + QPoint(0, 20));
        QTest::mouseRelease(picture, Qt::LeftButton, {}, from + QPoint(0, 40));
        QCOMPARE(b->library->knowledge(m_clip)->repairs.size(), std::size_t(1));
        picture->setZoom({1.2, {0.5, 0.5}});
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(kneeBend() - before) > 2, 20000);
        QVERIFY2(std::abs(playhead.time() - moment) < 1e-9, "one goes on looking where one looked");
        QVERIFY(picture->zoom().factor > 1.1 && picture->hasPicture()); // and as near as one had come
        QVERIFY(b->find<QPushButton>("mend.clear")->isEnabled());

        // By key: the next joint, a little to the right; then both are taken back.
        picture->setFocus();
        QTest::keyClick(picture, Qt::Key_BracketRight);
        QVERIFY(picture->chosen().has_value());
        QTest::keyClick(picture, Qt::Key_Right);
        QCOMPARE(b->library->knowledge(m_clip)->repairs.size(), std::size_t(2));
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QTest::keyClick(&review, Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(b->library->knowledge(m_clip)->empty());
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(kneeBend() - before) < 1e-6, 20000);
    }

    /// A length on the floor and a height tell how well the camera is known.
    void theRoomIsMadeKnown()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        const Playhead& playhead = b->open(m_clip);
        auto* picture = b->find<MendingView>("bench.student");
        QTRY_VERIFY_WITH_TIMEOUT(picture->hasPicture(), 10000);
        b->find<QPushButton>("bench.mend")->click();
        b->find<QPushButton>("mend.wall")->click();
        QCOMPARE(picture->tool(), MendingView::Tool::Wall);
        const double known = playhead.scene()->student.camera.azimuthSpread;
        // A wall ahead of the student, where the camera that was found would show it.
        b->find<QPushButton>("bench.whole")->setChecked(true);
        const auto at = [&](double x) {
            const auto p = playhead.scene()->student.camera.camera.project({x, 0.9, 0});
            return picture->toScreen().map(QPointF(p.x(), p.y())).toPoint();
        };
        QVERIFY(picture->rect().contains(at(-0.4)) && picture->rect().contains(at(0.4)));
        QTest::mousePress(picture, Qt::LeftButton, {}, at(-0.4));
        QTest::mouseMove(picture, at(0));
        QTest::mouseRelease(picture, Qt::LeftButton, {}, at(0.4));
        QVERIFY(b->library->knowledge(m_clip)->hints.wall.has_value());
        QTRY_VERIFY_WITH_TIMEOUT(playhead.scene()->student.camera.azimuthSpread < known, 20000);
        QVERIFY2(b->find<QLabel>("mend.camera")->text().contains("before"),
                 qPrintable(b->find<QLabel>("mend.camera")->text()));
        b->find<QPushButton>("mend.clear")->click();
        QVERIFY(b->library->knowledge(m_clip)->empty());

        // The same line told to be eight metres long would make a giant of the student: not believed, and
        // said.
        QTRY_COMPARE_WITH_TIMEOUT(playhead.scene()->student.camera.azimuthSpread, known, 20000);
        const Eigen::Vector3d place = playhead.scene()->student.camera.camera.position;
        b->find<QPushButton>("mend.floor")->click();
        b->find<QDoubleSpinBox>("mend.length")->setValue(8);
        QTest::mousePress(picture, Qt::LeftButton, {}, at(-0.4));
        QTest::mouseMove(picture, at(0));
        QTest::mouseRelease(picture, Qt::LeftButton, {}, at(0.4));
        QCOMPARE(b->library->knowledge(m_clip)->hints.spans.size(), std::size_t(1));
        QTRY_VERIFY_WITH_TIMEOUT(b->find<QLabel>("message")->text().contains("was left out"), 20000);
        QVERIFY((playhead.scene()->student.camera.camera.position - place).norm() < 0.01);
        b->find<QPushButton>("mend.clear")->click();

        auto* height = b->find<QDoubleSpinBox>("mend.height");
        QCOMPARE(height->value(), 1.72);
        height->setValue(1.80);
        QCOMPARE(b->library->students().front().height, std::optional(1.80));
        QTRY_COMPARE_WITH_TIMEOUT(playhead.scene()->student.profile.height, std::optional(1.80), 20000);
        QTest::keyClick(&b->window->review(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(b->library->students().front().height, std::optional(1.72));
    }

    void bothPicturesComeNearerTogether()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        b->open(m_clip);
        auto* student = b->find<PictureView>("bench.student");
        auto* reference = b->find<PictureView>("bench.reference");
        student->setFocus();
        const QPointF hip(student->width() / 2.0, student->height() / 2.0);
        const QPointF before = student->toScreen().inverted().map(hip);
        QTest::keyClick(student, Qt::Key_Plus);
        QTest::keyClick(student, Qt::Key_Plus);
        QVERIFY(student->zoom().factor > 1.5);
        QVERIFY(reference->zoom() == student->zoom());
        const QPointF after = student->toScreen().inverted().map(hip);
        QVERIFY2(QLineF(before, after).length() < 1, "the middle stays");
        QTest::mousePress(student, Qt::LeftButton, {}, {100, 100});
        QTest::mouseMove(student, {60, 100});
        QTest::mouseRelease(student, Qt::LeftButton, {}, {60, 100});
        QVERIFY(student->zoom().middle.x() > 0.5);
        QTest::mouseDClick(student, Qt::LeftButton, {}, {100, 100});
        QCOMPARE(student->zoom().factor, 1.0);
        QCOMPARE(reference->zoom().factor, 1.0);
    }

    /// The interface's bench drives the real window; what it measures is not judged here.
    void theInterfaceCanBeMeasured()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        const auto figures = benchmarkInterface(*b->window, m_clip, {20, 6, 6, 12, 1.5, false});
        QVERIFY2(figures, figures ? "" : figures.error().message().c_str());
        QCOMPARE(figures->width, 1280);
        QVERIFY(figures->openMs > 0 && figures->scrub95Ms >= figures->scrubMedianMs);
        QVERIFY(figures->scrubMedianMs > 0 && figures->figureFps > 0 && figures->paintMedianMs > 0);
        QVERIFY(figures->playedFrames > 0); // how many are dropped is a matter of what else the machine does
        QVERIFY(interfaceBenchmarkJson(*figures).find("dropped_share") != std::string::npos);
    }

    void allKeysAreListed()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        b->open(m_clip);
        KeysDialog dialog(*b->window, Theme::paper());
        QStringList words;
        for (const QLabel* l : dialog.findChildren<QLabel*>())
            words << l->text();
        for (const char* key :
             {"Space", "F1", "Ctrl+Z", "M", "B", "O", "F", "N", "D", "Ctrl+K", "W", "L", "PgDown"})
            QVERIFY2(words.contains(key), key);
        QCOMPARE(words.removeDuplicates(), 0); // nothing is said twice
    }

    /// From the Desk to an accepted slip and back without a mouse.
    void aReviewByKeyAlone()
    {
        const auto b = bench();
        QVERIFY(QTest::qWaitForWindowExposed(b->window.get()));
        QVERIFY(QTest::qWaitForWindowActive(b->window.get()));
        b->window->go(MainWindow::Desk);
        auto* first = b->find<QPushButton>("review");
        for (int tabs = 0; tabs < 40 && !first->hasFocus(); ++tabs)
            QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : b->window.get(),
                            Qt::Key_Tab);
        QVERIFY2(first->hasFocus(), "the first clip's button is reached by Tab");
        QTest::keyClick(first, Qt::Key_Space);
        QCOMPARE(b->window->place(), MainWindow::Review);
        const Playhead& playhead = b->window->review().playhead();
        QTRY_VERIFY_WITH_TIMEOUT(playhead.scene(), 20000);
        const auto press = [&](Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
            QTest::keyClick(b->window->windowHandle(), key, modifiers);
        };
        press(Qt::Key_PageUp);
        press(Qt::Key_Down);
        QTRY_VERIFY(playhead.currentPhase());
        press(Qt::Key_O);
        QTRY_COMPARE(b->window->review().bench().mode(), BenchMode::Over);
        press(Qt::Key_B);
        QTRY_COMPARE(b->window->review().bench().mode(), BenchMode::Beside);
        press(Qt::Key_3);
        QTRY_COMPARE(b->find<LadderView>("ladder")->openedRung(), std::optional(Rung::Knees));
        const Correction c = playhead.scene()->review.teach.front();
        const qint64 row = b->library->reviewOf({0, m_clip, {}, {}, {}})->id;
        press(Qt::Key_Return);
        QTRY_COMPARE(b->library->choice(row, QString::fromStdString(c.fault)).decision, Decision::Accepted);
        press(Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(b->library->choice(row, QString::fromStdString(c.fault)).decision, Decision::Proposed);
    }
};

QTEST_MAIN(TestMending)
#include "test_mending.moc"
