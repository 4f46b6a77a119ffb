#include "app/review/bench/mending_view.h"
#include "app/review/ladder/ladder_view.h"
#include "app/review/ladder/measure_row.h"
#include "app/review/page/review_page.h"
#include "app/review/page/student_limits_dialog.h"
#include "app/review/paint/words.h"
#include "app/review/slip/own_finding_dialog.h"
#include "app/review/slip/slip_view.h"
#include "exchange/review_file.h"
#include "review/derived_values.h"
#include "small_class.h"
#include <QSignalSpy>
#include <QtWidgets>

using namespace jl;

/// Drives every control of a review without a screen, and finds those that no step here has driven.
class TestControls : public QObject
{
    Q_OBJECT

private:
    SmallClass m_class;
    std::unique_ptr<ClassRoom> m_room;
    QSet<QString> m_driven;

    template <class T = QAbstractButton>
    T* drive(const QString& name)
    {
        m_driven << name;
        return m_room->find<T>(name.toUtf8());
    }
    ReviewPage& page() const { return m_room->window->review(); }
    const Playhead& playhead() const { return page().playhead(); }
    const Review& review() const { return playhead().scene()->review; }

    /// Answers with a file to what asks where to save.
    void saveBy(const std::function<void()>& press, const QString& file)
    {
        QTimer::singleShot(0, this, [&] {
            for (QWidget* w : QApplication::topLevelWidgets())
                if (auto* dialog = qobject_cast<QFileDialog*>(w)) {
                    dialog->selectFile(file);
                    QMetaObject::invokeMethod(dialog, "accept");
                }
        });
        press();
    }

    /// Unfolds a correction's card, where it is not.
    void unfold(const QString& fault)
    {
        const QString name = "slip." + fault + ".show";
        if (!m_room->window->findChild<QPushButton*>(name)) drive("slip." + fault + ".more")->click();
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(name));
    }
    QString firstFault() const { return QString::fromStdString(review().teach.front().fault); }

    /// Makes a change after which the review is made anew, and waits for it.
    template <class Change>
    void remade(Change change)
    {
        QSignalSpy opened(&page(), &ReviewPage::opened);
        change();
        QTRY_COMPARE_WITH_TIMEOUT(opened.count(), 1, 30000);
    }
    static void choose(QComboBox* box, int index)
    {
        box->setCurrentIndex(index);
        emit box->activated(index);
    }
    QString first(const char* what) const
    {
        return "slip." + QString::fromStdString(review().teach.front().fault) + "." + what;
    }
    SlipChoice choice() const
    {
        const qint64 row = m_room->library->reviewOf({0, m_class.clip, {}, {}, {}})->id;
        return m_room->library->choice(row, QString::fromStdString(review().teach.front().fault));
    }
    /// Cards after the first have the same controls; what their buttons are called says what they are for.
    void driveCards()
    {
        for (const Correction& c : review().teach) {
            const QString fault = QString::fromStdString(c.fault);
            unfold(fault);
            for (const char* name : {"accept", "park", "set-aside", "more", "show", "reword", "cause"}) {
                auto* button = drive<QPushButton>("slip." + fault + "." + name);
                QVERIFY(button->accessibleName().contains(QString::fromStdString(c.title)));
            }
            if (review().teach.size() == 1) continue; // nothing to put in another order
            auto* handle = drive<QToolButton>("order." + fault);
            QVERIFY(handle->focusPolicy() == Qt::StrongFocus);
        }
    }

private slots:
    void initTestCase()
    {
        m_class.gather();
        m_room = m_class.open();
        ClipRow teacher;
        teacher.title = "Our teacher";
        teacher.reference = true;
        teacher.performerHeight = 1.70;
        const qint64 id = *m_room->library->addClip(m_room->library->clip(m_class.second)->file, teacher);
        QVERIFY(m_room->library->saveTrack(id, *m_room->library->track(m_class.second)));
        m_room->open(m_class.clip);
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(first("accept")));
    }

    void theFloorOfTheBench()
    {
        auto *student = m_room->find<MendingView>("bench.student"), *picture = student;
        QTRY_VERIFY_WITH_TIMEOUT(picture->hasPicture(), 10000);
        const QImage drawn = picture->grab().toImage();
        drive("bench.figure")->click();
        QVERIFY(picture->grab().toImage() != drawn);
        drive("bench.figure")->click();
        const QTransform near = picture->toScreen();
        drive("bench.whole")->click();
        QVERIFY(picture->toScreen().m11() < near.m11());
        drive("bench.whole")->click();
        QCOMPARE(picture->toScreen(), near);
        drive("bench.mode.over")->click();
        QCOMPARE(page().bench().mode(), BenchMode::Over);
        drive("bench.mode.figure")->click();
        QCOMPARE(page().bench().mode(), BenchMode::Figure);
        drive("bench.mode.beside")->click();
        QCOMPARE(page().bench().mode(), BenchMode::Beside);
    }

    void timeGoesBothWays()
    {
        const double begin = playhead().time();
        drive("ribbon.previous")->click();
        const double before = playhead().time();
        QVERIFY(before < begin);
        drive("ribbon.next")->click();
        QCOMPARE(playhead().time(), begin);
        drive("ribbon.back")->click();
        QVERIFY(playhead().time() < begin && playhead().time() > begin - 0.2);
        drive("ribbon.forward")->click();
        QVERIFY(std::abs(playhead().time() - begin) < 0.04);

        auto* speed = drive<QComboBox>("ribbon.speed");
        speed->setCurrentIndex(speed->count() - 1);
        QCOMPARE(playhead().speed(), 2.0);
        // Within a loop, time comes back to where it was.
        drive("ribbon.loop")->click();
        auto* play = drive("ribbon.play");
        play->click();
        QVERIFY(playhead().playing());
        double latest = 0;
        bool cameBack = false;
        const auto connection = connect(&playhead(), &Playhead::moved, this, [&](double time) {
            cameBack = cameBack || time < latest - 0.2;
            latest = std::max(latest, time);
        });
        QTRY_VERIFY_WITH_TIMEOUT(cameBack, 20000);
        disconnect(connection);
        play->click();
        QVERIFY(!playhead().playing());
        drive("ribbon.loop")->click();
        speed->setCurrentIndex(speed->findData(0.5));
        // The clips of the tests are silent, and the button says so.
        auto* sound = drive("ribbon.sound");
        QVERIFY(!sound->isEnabled() && !sound->toolTip().isEmpty());
    }

    void everyRungAndMeasure()
    {
        auto* ladder = m_room->find<LadderView>("ladder");
        for (auto* rung : ladder->findChildren<QAbstractButton*>(QRegularExpression("^rung\\."))) {
            drive(rung->objectName());
            rung->click();
            QVERIFY(rung->isChecked());
            const auto open = ladder->openedRung();
            if (!open) continue; // of the phase as a whole: nothing to choose there
            for (auto* row : ladder->findChildren<MeasureRow*>()) {
                if (!row->isVisibleTo(ladder)) continue;
                drive(row->objectName())->click();
                QVERIFY2(row->isChecked(), qPrintable(row->objectName()));
                QCOMPARE(row->objectName().mid(8),
                         QString::fromStdString(std::string(measureInfo(playhead().measure()).key)));
                QCOMPARE(ladder->openedRung(), open); // one stays where one chooses
            }
        }
    }

    /// What stands out of all rungs, and nothing else.
    void onlyWhatStandsOut()
    {
        auto* ladder = m_room->find<LadderView>("ladder");
        const Finding& f = review().findings.front();
        const_cast<Playhead&>(playhead()).goToPhase(f.posture, f.phase);
        auto* out = drive("ladder.out");
        out->click();
        int rows = 0;
        for (auto* row : ladder->findChildren<MeasureRow*>()) {
            if (!row->isVisibleTo(ladder)) continue;
            ++rows;
            QVERIFY(row->mark() != Mark::Within && row->mark() != Mark::CannotTell);
        }
        QVERIFY(rows > 0 || !f.measure);
        ladder->openRung(Rung::Knees); // ends it
        QVERIFY(!out->isChecked());
        QVERIFY(m_room->find<MeasureRow>("measure.knee.lead.past_toe")->isVisibleTo(ladder));
    }

    void lengthsAreToldInInches()
    {
        auto* row = m_room->find<MeasureRow>("measure.knee.lead.past_toe");
        row->click();
        QVERIFY(row->accessibleDescription().contains(" cm"));
        auto* lengths = drive<QToolButton>("rail.lengths");
        QCOMPARE(lengths->text(), QString("cm"));
        const QKeySequence keys = lengths->shortcut();
        QVERIFY(!keys.isEmpty());
        lengths->click();
        QCOMPARE(lengths->text(), QString("in"));
        QCOMPARE(lengths->shortcut(), keys);
        QVERIFY2(row->accessibleDescription().contains(" in "), qPrintable(row->accessibleDescription()));
        QCOMPARE(valueText(Measure::StanceLength, 0.254), QString("10.0 in"));
        QCOMPARE(valueText(PhaseMeasure::BalanceSway, 0.0254 * 0.0254), QString("1.0 in²"));
        QCOMPARE(valueText(PhaseMeasure::LeftPivotOn, 90, 7), QString("ball, 90 ± 14.0 %"));
        QVERIFY(bandText(Measure::KneeLeadTrack, {-0.0254, 0.0508}).contains("-1.0 to 2.0 in"));
        QCOMPARE(valueText(Measure::PelvisHeight, 90), QString("90 %"));
        // The next window keeps it.
        const auto other = m_class.open();
        auto* kept = other->find<QToolButton>("rail.lengths");
        QCOMPARE(kept->text(), QString("in"));
        for (const char* shown : {"cm", "in"}) { // with no review open there is nothing to tell again
            kept->click();
            QCOMPARE(kept->text(), QString(shown));
        }
        lengths->click();
        QVERIFY(row->accessibleDescription().contains(" cm"));
    }

    void theHeightIsComparedWithPhasesBefore()
    {
        m_room->find<MeasureRow>("measure.pelvis.height")->click();
        const auto place = [&]() -> std::pair<std::size_t, std::size_t> {
            for (std::size_t i = 0; i < review().postures.size(); ++i)
                for (std::size_t k = 0; k < review().postures[i].phases.size(); ++k)
                    if (!heightChanges(review(), i, k).empty()) return {i, k};
            qFatal("no height is told twice");
        }();
        const_cast<Playhead&>(playhead()).goToPhase(place.first, place.second);
        drive("ladder.detail.more")->click();
        QTRY_VERIFY(m_room->find<QLabel>("ladder.detail.words")->isVisible());
        const QString words = m_room->find<QLabel>("ladder.detail.words")->text();
        const HeightChange since = heightChanges(review(), place.first, place.second).front();
        QVERIFY2(words.contains("er than in \"" + phaseTitle(review(), since.posture, since.phase) + "\""),
                 qPrintable(words));
    }

    void whatIsMended()
    {
        auto* picture = m_room->find<MendingView>("bench.student");
        drive("bench.mend")->click();
        drive("mend.floor")->click();
        QCOMPARE(picture->tool(), MendingView::Tool::Floor);
        drive<QDoubleSpinBox>("mend.length")->setValue(0.75);
        const QPoint from(picture->width() / 4, picture->height() * 9 / 10), along(picture->width() / 3, 0);
        remade([&] {
            QTest::mousePress(picture, Qt::LeftButton, {}, from);
            QTest::mouseMove(picture, from + along / 2);
            QTest::mouseRelease(picture, Qt::LeftButton, {}, from + along);
        });
        const auto known = m_room->library->knowledge(m_class.clip);
        QCOMPARE(known->hints.spans.size(), std::size_t(1));
        QCOMPARE(known->hints.spans.front().length, 0.75);
        drive("mend.wall")->click();
        QCOMPARE(picture->tool(), MendingView::Tool::Wall);
        drive("mend.points")->click();
        QCOMPARE(picture->tool(), MendingView::Tool::Points);
        remade([&] { drive("mend.clear")->click(); });
        QVERIFY(m_room->library->knowledge(m_class.clip)->empty());
        remade([&] { drive<QDoubleSpinBox>("mend.height")->setValue(1.75); });
        QCOMPARE(playhead().scene()->student.profile.height, std::optional(1.75));
        drive("bench.mend")->click();
        QCOMPARE(picture->tool(), MendingView::Tool::None);
    }

    void theSlip()
    {
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(first("accept")));
        drive(first("accept"))->click();
        QTRY_COMPARE(choice().decision, Decision::Accepted);
        QTRY_VERIFY(m_room->find<QPushButton>("slip.plan")->isEnabled());

        drive<QSpinBox>("slip.minutes")->setValue(25);
        QCOMPARE(m_room->library->setting("practice.minutes"), "25");
        QTemporaryDir folder;
        const QString file = folder.filePath("week.ics");
        saveBy([&] { drive("slip.plan")->click(); }, file);
        QFile saved(file);
        QVERIFY(saved.open(QIODevice::ReadOnly));
        QVERIFY(saved.readAll().startsWith("BEGIN:VCALENDAR"));

        drive(first("park"))->click();
        QTRY_COMPARE(choice().decision, Decision::Parked);
        QTRY_VERIFY(m_room->find<QPushButton>(first("park").toUtf8())->isChecked());
        for (const char* reason : {"variant", "limit", "wrong"}) {
            QTRY_VERIFY(m_room->window->findChild<QAction*>(first(reason)));
            drive<QAction>(first(reason))->trigger();
            QTRY_COMPARE(choice().reason, QString(reason));
            QCoreApplication::processEvents();
        }
        m_driven << first("set-aside");                                // through its menu
        QVERIFY(m_room->find<QPushButton>("bench.mend")->isChecked()); // measured wrong: mend it
        m_room->find<QPushButton>("bench.mend")->click();
        drive(first("accept"))->click();
        QTRY_COMPARE(choice().decision, Decision::Accepted);

        unfold(firstFault());
        drive(first("reword"))->click();
        QTRY_VERIFY(m_room->window->findChild<QPlainTextEdit*>("slip.cue"));
        drive<QPlainTextEdit>("slip.cue")->setPlainText("Sit first.");
        drive("slip.cue.keep")->click();
        QTRY_COMPARE(choice().cue, "Sit first.");
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(first("reword")));
        drive(first("reword"))->click();
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>("slip.cue.back"));
        // A doubt that comes up meanwhile leaves what is being written.
        QTest::qWait(50); // the cards are made anew after each click
        drive<QPlainTextEdit>("slip.cue")->setPlainText("Half a sent");
        auto* slip = m_room->window->findChild<SlipView*>();
        slip->setDoubt("This looks more like something else.");
        QTRY_VERIFY(m_room->find<QLabel>("slip.doubt")->isVisible());
        QCOMPARE(m_room->find<QPlainTextEdit>("slip.cue")->toPlainText(), QString("Half a sent"));
        slip->setDoubt({});
        drive("slip.cue.back")->click();
        QTRY_VERIFY(choice().cue.isEmpty());

        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(first("show")));
        drive("ribbon.previous")->click();
        drive(first("show"))->click();
        QCOMPARE(playhead().time(), review().teach.front().time);
    }

    void causesAndOrder()
    {
        driveCards();
        if (review().teach.size() > 1) {
            const std::string second = review().teach[1].fault;
            auto* handle = m_room->find<QToolButton>("order." + QByteArray::fromStdString(second));
            QTest::keyClick(handle, Qt::Key_Up);
            const auto firstHandle = [&] {
                for (const QToolButton* b : m_room->find<SlipView>("slip")->findChildren<QToolButton*>())
                    if (b->objectName().startsWith("order.")) return b->objectName();
                return QString();
            };
            QTRY_COMPARE(firstHandle(), "order." + QString::fromStdString(second));
        }
        auto* cause = m_room->find<QPushButton>(first("cause").toUtf8());
        const QString other = [&] {
            for (const QAction* a : cause->menu()->actions())
                if (!a->isSeparator()) return a->text();
            return QString();
        }();
        if (!other.isEmpty()) remade([&] { cause->menu()->actions().front()->trigger(); });
    }

    void standingBeforeTheForm()
    {
        QVERIFY(review().standing && review().standing->seesAnything());
        auto* unfold = drive<QToolButton>("slip.standing.unfold");
        const bool open = unfold->isChecked();
        unfold->click();
        QCOMPARE(unfold->isChecked(), !open);
        drive<QToolButton>("slip.standing.look")->click();
        QCOMPARE(playhead().time(), review().standing->time);
    }

    /// A finding of her own is a card like any other, until it is taken away.
    void whatSheSeesHerself()
    {
        drive("slip.further");
        const std::size_t proposed = review().teach.size();
        const auto write = [&] {
            auto* dialog = m_room->window->findChild<OwnFindingDialog*>();
            QVERIFY(dialog);
            dialog->findChild<QLineEdit*>("own.title")->setText("Wait for the breath");
            dialog->findChild<QPushButton*>("own.keep")->click();
        };
        remade([&] {
            QTimer::singleShot(0, this, write);
            drive("slip.own")->click();
        });
        QCOMPARE(review().teach.size(), proposed + 1);
        QCOMPARE(review().teach.back().fault, std::string("own-wait-for-the-breath"));
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>("slip.own-wait-for-the-breath.more"));
        unfold("own-wait-for-the-breath");
        QVERIFY(m_room->window->findChild<QPushButton*>("slip.own-wait-for-the-breath.remove"));
        QVERIFY(m_room->find<QPushButton>("slip.own-wait-for-the-breath.accept")->isChecked());
        remade([&] { m_room->find<QPushButton>("slip.own-wait-for-the-breath.remove")->click(); });
        QCOMPARE(review().teach.size(), proposed);
    }

    void whatIsComparedWithWhat()
    {
        auto* school = drive<QComboBox>("review.school");
        remade([&] { choose(school, school->findData("inclined-straight")); });
        QCOMPARE(review().school, std::string("inclined-straight"));
        remade([&] { choose(school, school->findData("upright-broad")); });
        auto* form = drive<QComboBox>("review.form");
        QCOMPARE(form->currentData().toString(), "sparrow-tail");
        remade([&] { choose(form, form->findData("ward-off")); });
        QCOMPARE(review().form, std::string("ward-off"));
        QCOMPARE(m_room->library->reviewOf({0, m_class.clip, {}, {}, {}})->form, "ward-off");
        // A form that was not performed finds little of itself in the clip, and says so.
        remade([&] { choose(form, form->findData("kick-section")); });
        QTRY_VERIFY(m_room->find<QLabel>("slip.cautions")->text().contains("choose that form"));
        QTRY_VERIFY_WITH_TIMEOUT(m_room->window->findChild<QLabel*>("slip.doubt"), 60000);
        QVERIFY(m_room->find<QLabel>("slip.doubt")->text().startsWith("This looks more like"));
        remade([&] { choose(form, form->findData("sparrow-tail")); });
        QVERIFY(!m_room->window->findChild<QLabel*>("slip.doubt"));
        QTRY_VERIFY(!m_room->find<QLabel>("slip.cautions")->text().contains("choose that form"));
        auto* reference = drive<QComboBox>("review.reference");
        QCOMPARE(reference->count(), 2);
        remade([&] { choose(reference, 1); });
        QVERIFY(playhead().scene()->reference);
        auto* yardstick = drive<QComboBox>("review.yardstick");
        QVERIFY(yardstick->isEnabled());
        remade([&] { choose(yardstick, yardstick->findData("both")); });
        remade([&] { choose(reference, 0); });
        QVERIFY(!playhead().scene()->reference);
        auto* second = drive<QComboBox>("review.second");
        remade([&] { choose(second, second->findData(m_class.second)); });
        QVERIFY(playhead().scene()->second);
        auto* other = drive("bench.other");
        QVERIFY(other->isVisible());
        other->click();
        QVERIFY(other->isChecked());
        remade([&] { choose(second, 0); });
        auto* clip = drive<QComboBox>("review.clip");
        remade([&] { choose(clip, clip->findData(m_class.second)); });
        QCOMPARE(page().openClip(), m_class.second);
        remade([&] { choose(clip, clip->findData(m_class.clip)); });
        QTimer::singleShot(0, this, [&] {
            auto* dialog = m_room->window->findChild<StudentLimitsDialog*>();
            if (dialog) dialog->reject();
        });
        drive("review.limits")->click();
    }

    void theReviewIsExported()
    {
        QTemporaryDir folder;
        const QString file = folder.filePath("monday.json");
        m_driven << "review.export"; // through its menu
        saveBy([&] { drive<QAction>("export.review")->trigger(); }, file);
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(file), 60000); // the forms may have to be compared first
        const auto record = readRecord(file.toStdString());
        QVERIFY2(record, record ? "" : record.error().message().c_str());
        QCOMPARE(record->form, review().form);
        QVERIFY(record->values.size() > 20);
        // Where nothing can be written, it is said.
        saveBy([&] { drive<QAction>("export.review")->trigger(); },
               folder.filePath("no such folder/monday.json"));
        QTRY_VERIFY(m_room->find<QLabel>("message")->text().contains("monday.json"));
    }

    void noneIsLeftOut()
    {
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(first("accept")));
        driveCards();
        m_driven << "slip.page"
                 << "slip.moving"; // test_share drives them
        auto* cautions = drive<QToolButton>("slip.cautions.unfold");
        cautions->click();
        QTRY_VERIFY(m_room->find<QLabel>("slip.cautions")->isVisibleTo(&page()));
        int controls = 0;
        for (auto* w : page().findChildren<QWidget*>()) {
            const bool isControl = qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w) ||
                                   qobject_cast<QAbstractSpinBox*>(w) || qobject_cast<QAbstractSlider*>(w) ||
                                   qobject_cast<QPlainTextEdit*>(w);
            if (!isControl || !w->isVisibleTo(&page()) || qobject_cast<QScrollBar*>(w)) continue;
            ++controls;
            const auto* button = qobject_cast<QAbstractButton*>(w);
            const QString spoken = w->accessibleName() + (button ? button->text() : QString());
            const QString which =
                QString("%1 \"%2\" %3").arg(w->metaObject()->className(), w->objectName(), spoken);
            QVERIFY2(!spoken.isEmpty(), qPrintable(which + " has no name to be read aloud"));
            QVERIFY2(m_driven.contains(w->objectName()), qPrintable(which + " is not driven"));
        }
        QVERIFY(controls > 40);
        m_room.reset();
    }
};

QTEST_MAIN(TestControls)
#include "test_controls.moc"
