#include "app/jobs/bundle_intake.h"
#include "app/review/page/review_page.h"
#include "app/review/share/moving_picture_dialog.h"
#include "app/review/slip/slip_page_dialog.h"
#include "app/shell/command_palette.h"
#include "app/shell/guest_window.h"
#include "exchange/review_file.h"
#include "media/clip_info.h"
#include "small_class.h"
#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTreeWidget>

using namespace jl;

/// What leaves a review: the page, moving pictures, bundles; and how few keys it takes.
class TestShare : public QObject
{
    Q_OBJECT

private:
    SmallClass m_class;
    std::unique_ptr<ClassRoom> m_room;

    ReviewPage& page() const { return m_room->window->review(); }
    const Review& review() const { return page().playhead().scene()->review; }
    qint64 reviewId() const { return m_room->library->reviewOf({0, m_class.clip, {}, {}, {}})->id; }
    SlipChoice choice(std::size_t i) const
    {
        return m_room->library->choice(reviewId(), QString::fromStdString(review().teach[i].fault));
    }
    QAbstractButton* button(const char* name) const { return m_room->find<QAbstractButton>(name); }
    QString said() const { return m_room->find<QLabel>("message")->text(); }

    /// Answers the next dialog that asks for a file.
    void answerWith(const QString& file)
    {
        QTimer::singleShot(200, this, [file] {
            for (QWidget* w : QApplication::topLevelWidgets())
                if (auto* dialog = qobject_cast<QFileDialog*>(w)) {
                    dialog->findChild<QLineEdit*>("fileNameEdit")->setText(file);
                    QMetaObject::invokeMethod(dialog, "accept");
                }
        });
    }
    void acceptFirst()
    {
        const QString name = "slip." + QString::fromStdString(review().teach.front().fault) + ".accept";
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(name));
        if (choice(0).decision != Decision::Accepted) m_room->window->findChild<QPushButton*>(name)->click();
        QTRY_COMPARE(choice(0).decision, Decision::Accepted);
        QTRY_VERIFY(button("slip.page")->isEnabled());
    }
    template <class Dialog>
    Dialog* opened(const char* button)
    {
        this->button(button)->click();
        auto* dialog = m_room->window->findChild<Dialog*>();
        if (!dialog) qFatal("%s opens nothing", button);
        return dialog;
    }

private slots:
    void initTestCase()
    {
        m_class.gather();
        m_room = m_class.open();
        QVERIFY(QTest::qWaitForWindowActive(m_room->window.get()));
        m_room->open(m_class.clip);
    }

    /// The whole review of a clip, from its first sight to a saved page, by key alone.
    void aReviewTakesFewKeys()
    {
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(
            "slip." + QString::fromStdString(review().teach.front().fault) + ".accept"));
        int keys = 0;
        const auto press = [&](QWidget* widget, Qt::Key key, Qt::KeyboardModifiers with = {}) {
            ++keys;
            QTest::keyClick(widget, key, with);
            QCoreApplication::processEvents();
        };
        QWidget* window = m_room->window.get();
        page().setFocus();
        for (std::size_t i = 0; i < review().teach.size(); ++i) {
            press(window, Qt::Key_N);
            QCOMPARE(page().playhead().time(), review().teach[i].time); // it is shown before it is decided
            press(window, Qt::Key_Return);
            QTRY_COMPARE(choice(i).decision, Decision::Accepted);
        }
        press(window, Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(choice(review().teach.size() - 1).decision, Decision::Proposed);
        press(window, Qt::Key_Return);
        QTRY_COMPARE(choice(review().teach.size() - 1).decision, Decision::Accepted);
        press(window, Qt::Key_Return); // one too many takes nothing back
        QTest::qWait(50);
        for (std::size_t i = 0; i < review().teach.size(); ++i)
            QCOMPARE(choice(i).decision, Decision::Accepted);
        press(window, Qt::Key_P, Qt::ControlModifier);
        QTRY_VERIFY(window->findChild<SlipPageDialog*>());
        auto* dialog = window->findChild<SlipPageDialog*>();
        QTRY_VERIFY_WITH_TIMEOUT(dialog->findChild<QPushButton*>("page.pdf")->isEnabled(), 20000);
        const QTemporaryDir dir;
        answerWith(dir.filePath("slip.pdf"));
        press(dialog, Qt::Key_Return);
        QTRY_VERIFY(QFileInfo(dir.filePath("slip.pdf")).size() > 20000);
        press(dialog, Qt::Key_Escape);
        QVERIFY2(keys <= 20, qPrintable(QString::number(keys)));
        QTRY_VERIFY(!window->findChild<SlipPageDialog*>());
    }

    void thePageForTheStudent()
    {
        acceptFirst();
        auto* dialog = opened<SlipPageDialog>("slip.page");
        auto* pdf = button("page.pdf");
        QTRY_VERIFY_WITH_TIMEOUT(pdf->isEnabled(), 20000);
        auto* preview = dialog->findChild<QLabel*>("page.preview");
        const double a5 = preview->pixmap().height();
        dialog->findChild<QComboBox*>("page.paper")->setCurrentIndex(1);
        QVERIFY(std::abs(preview->pixmap().height() - a5) < 3); // the same shape of paper
        // A cue is put in other words where it stands.
        for (int y = 4; y < preview->height() && !dialog->findChild<QPlainTextEdit*>("slip.cue"); y += 6)
            QTest::mouseClick(preview, Qt::LeftButton, {}, {preview->width() * 2 / 3, y});
        auto* editor = dialog->findChild<QPlainTextEdit*>("slip.cue");
        QVERIFY(editor);
        QCOMPARE(editor->toPlainText(), QString::fromStdString(review().teach.front().cue));
        editor->setPlainText("Wait for the heel.");
        dialog->findChild<QPushButton*>("slip.cue.keep")->click();
        QTRY_COMPARE(choice(0).cue, "Wait for the heel.");
        const QTemporaryDir dir;
        dialog->saveTo(dir.filePath("none/slip.pdf"));
        QVERIFY(dialog->findChild<QLabel*>("page.said")->text().contains("none/slip.pdf"));
        const std::size_t before = m_room->library->sentSlips(reviewId()).size();
        dialog->saveTo(dir.filePath("slip.pdf"));
        QVERIFY(QFileInfo(dir.filePath("slip.pdf")).size() > 20000);
        const auto sent = m_room->library->sentSlips(reviewId());
        QCOMPARE(sent.size(), before + 1);
        QVERIFY(sent[0].words.contains(QString::fromStdString(review().teach.front().title)));
        QVERIFY(sent[0].words.contains("Wait for the heel."));
        dialog->findChild<QPushButton*>("page.copy")->click();
        QCOMPARE(QGuiApplication::clipboard()->text(), sent[0].words);
        auto* list = dialog->findChild<QListWidget*>("page.sent");
        QCOMPARE(list->count(), static_cast<int>(before) + 3); // as it is now, copied, saved
        list->setCurrentRow(2);
        QVERIFY(!preview->pixmap().isNull());
        dialog->findChild<QPushButton*>("page.close")->click();
        QTRY_VERIFY(!m_room->window->findChild<SlipPageDialog*>());
    }

    void theMovingPictureIsWrittenWhileOneGoesOn()
    {
        acceptFirst();
        auto* dialog = opened<MovingPictureDialog>("slip.moving");
        auto* preview = dialog->findChild<QLabel*>("moving.preview");
        QTRY_VERIFY_WITH_TIMEOUT(!preview->pixmap().isNull(), 20000);
        QVERIFY(preview->pixmap().width() > preview->pixmap().height());
        const auto choose = [&](const char* name, int index) {
            dialog->findChild<QComboBox*>(name)->setCurrentIndex(index);
        };
        choose("moving.shape", 1);
        QTRY_VERIFY_WITH_TIMEOUT(preview->pixmap().width() < preview->pixmap().height(), 20000);
        choose("moving.layout", 1);
        choose("moving.tempo", 2);
        dialog->findChild<QSpinBox*>("moving.times")->setValue(1);
        const PairClipRequest wanted = dialog->request();
        QCOMPARE(wanted.style.layout, PairLayout::Over);
        QCOMPARE(wanted.style.shape, PairShape::Portrait);
        QCOMPARE(wanted.timing.tempo, 1.0);
        QCOMPARE(wanted.timing.times, 1);
        const QTemporaryDir dir;
        dialog->saveTo(dir.filePath("moments.mp4"));
        QVERIFY(m_room->find<QWidget>("exports")->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(said() == "Saved: " + dir.filePath("moments.mp4"), 120000);
        QVERIFY(!m_room->find<QWidget>("exports")->isVisible());
        const auto info = probe(dir.filePath("moments.mp4").toStdString());
        QVERIFY2(info, info ? "" : info.error().message().c_str());
        QCOMPARE(info->width, 720);
        QCOMPARE(info->height, 1280);
        QTRY_VERIFY(!m_room->window->findChild<MovingPictureDialog*>());
    }

    void whatIsCancelledLeavesNothing()
    {
        acceptFirst();
        const QTemporaryDir dir;
        for (const char* name : {"a.mp4", "b.mp4"}) { // both at once
            auto* dialog = opened<MovingPictureDialog>("slip.moving");
            dialog->findChild<QSpinBox*>("moving.times")->setValue(10);
            dialog->saveTo(dir.filePath(name));
            QTRY_VERIFY(!m_room->window->findChild<MovingPictureDialog*>());
        }
        const auto cancels =
            m_room->find<QWidget>("exports")->findChildren<QPushButton*>(QRegularExpression("cancel$"));
        QCOMPARE(cancels.size(), 2);
        for (QPushButton* cancel : cancels)
            cancel->click();
        QTRY_VERIFY_WITH_TIMEOUT(page().exports().idle(), 60000);
        QVERIFY2(said().startsWith("Not written: "), qPrintable(said()));
        QVERIFY(QDir(dir.path()).isEmpty());
    }

    void whatCannotBeWrittenIsSaid()
    {
        acceptFirst();
        auto* dialog = opened<MovingPictureDialog>("slip.moving");
        dialog->saveStillsTo("/no such folder");
        QTRY_VERIFY_WITH_TIMEOUT(said().contains("/no such folder"), 30000);
        QTRY_VERIFY(!m_room->window->findChild<MovingPictureDialog*>());
        const QTemporaryDir dir;
        dialog = opened<MovingPictureDialog>("slip.moving");
        dialog->saveStripsTo(dir.path());
        QTRY_VERIFY_WITH_TIMEOUT(page().exports().idle(), 60000);
        QCOMPARE(QDir(dir.path()).entryList({"*right and wrong*.png"}).size(), 1);
        dialog = opened<MovingPictureDialog>("slip.moving");
        dialog->saveStripsTo("/no such folder");
        QTRY_VERIFY_WITH_TIMEOUT(said().contains("/no such folder"), 30000);
        QTRY_VERIFY(!m_room->window->findChild<MovingPictureDialog*>());
    }

    /// What matters most in one picture, and one button.
    void theFirstLook()
    {
        m_room->window->go(MainWindow::Desk);
        m_room->window->findChild<QPushButton*>("look")->click();
        auto* look = m_room->find<QWidget>("firstlook");
        QTRY_VERIFY_WITH_TIMEOUT(look->isVisible(), 30000);
        QTRY_VERIFY_WITH_TIMEOUT(!m_room->find<QLabel>("firstlook.picture")->pixmap().isNull(), 30000);
        QTest::keyClick(look, Qt::Key_Escape);
        QVERIFY(!look->isVisible());
        for (const PlaceAction& action : actionsOf(*m_room->window))
            if (action.keys == QKeySequence("Ctrl+L")) action.run();
        QTRY_VERIFY(look->isVisible());
        button("firstlook.accept")->click();
        QVERIFY(!look->isVisible());
        const qint64 row = m_room->library->reviewOf({0, page().openClip(), {}, {}, {}})->id;
        QTRY_VERIFY(std::any_of(review().teach.begin(), review().teach.end(), [&](const Correction& c) {
            return m_room->library->choice(row, QString::fromStdString(c.fault)).decision ==
                   Decision::Accepted;
        }));
        m_room->open(m_class.clip);
        QTRY_COMPARE_WITH_TIMEOUT(page().openClip(), m_class.clip, 60000);
    }

    /// Another instructor sees the same review, changes nothing in it, and takes it over.
    void aBundleGoesFromWindowToWindow()
    {
        acceptFirst();
        const QTemporaryDir dir;
        const QString file = dir.filePath("ana.zip");
        answerWith(file);
        m_room->find<QAction>("export.bundle")->trigger();
        QTRY_VERIFY2_WITH_TIMEOUT(said() == "Saved: " + file, qPrintable(said()), 60000);
        const std::string sent = recordJson(recordOf(review()));

        m_room->window->bringIn({file});
        GuestWindow* guest = nullptr;
        const auto findGuest = [&] {
            for (QWidget* w : QApplication::topLevelWidgets())
                if (auto* g = qobject_cast<GuestWindow*>(w)) guest = g;
            return guest != nullptr;
        };
        QTRY_VERIFY_WITH_TIMEOUT(findGuest(), 60000);
        QVERIFY(guest->findChild<QLabel*>("guest.about")->text().contains("Ana Brook"));
        QTRY_VERIFY_WITH_TIMEOUT(guest->review().playhead().scene(), 60000);
        const Review& theirs = guest->review().playhead().scene()->review;
        QCOMPARE(recordJson(recordOf(theirs)), sent);
        QCOMPARE(theirs.teach.size(), review().teach.size());
        const QString accept = "slip." + QString::fromStdString(review().teach.front().fault) + ".accept";
        QTRY_VERIFY(guest->findChild<QPushButton*>(accept));
        QVERIFY(guest->findChild<QPushButton*>(accept)->isChecked()); // decided as it was sent
        guest->findChild<QPushButton*>(accept)->click();
        QTRY_VERIFY(guest->findChild<QLabel*>("message")->text().contains("another instructor's"));
        QTRY_VERIFY(guest->findChild<QPushButton*>(accept)->isChecked());

        const std::size_t before = m_room->library->clips().size();
        QSignalSpy shown(&page(), &ReviewPage::opened);
        guest->findChild<QPushButton*>("guest.take")->click();
        QCOMPARE(m_room->library->clips().size(), before + 1);
        QTRY_COMPARE_WITH_TIMEOUT(shown.count(), 1, 60000);
        QVERIFY(page().openClip() != m_class.clip);
        QCOMPARE(recordJson(recordOf(review())), sent);
        QTRY_VERIFY(m_room->window->findChild<QPushButton*>(accept));
        QVERIFY(m_room->window->findChild<QPushButton*>(accept)->isChecked());
        m_room->open(m_class.clip);
        QTRY_COMPARE_WITH_TIMEOUT(page().openClip(), m_class.clip, 60000);
    }

    void whatIsNoBundleIsRefused()
    {
        const QTemporaryDir dir;
        QFile file(dir.filePath("half.zip"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("PK\x03\x04 and nothing more");
        file.close();
        m_room->window->bringIn({file.fileName()});
        QTRY_VERIFY2(said().contains("half.zip"), qPrintable(said()));
    }

    void everythingIsFoundByAFewLetters()
    {
        CommandPalette palette(actionsOf(*m_room->window), Theme::paper(), m_room->window.get());
        auto* list = palette.findChild<QTreeWidget*>("palette.list");
        QVERIFY(list->topLevelItemCount() > 60);
        QStringList words;
        for (int i = 0; i < list->topLevelItemCount(); ++i)
            words << list->topLevelItem(i)->text(0);
        QCOMPARE(words.removeDuplicates(), 0);
        auto* text = palette.findChild<QLineEdit*>("palette.text");
        text->setText("cor befo");
        QCOMPARE(list->topLevelItemCount(), 1);
        QVERIFY(list->topLevelItem(0)->text(1).contains("Shift+N"));
        text->setText("go to nowhere at all");
        QCOMPARE(list->topLevelItemCount(), 0);
        text->setText("desk");
        QTest::keyClick(text, Qt::Key_Return);
        QTRY_COMPARE(m_room->window->place(), MainWindow::Desk);
        m_room->window->go(MainWindow::Review);
    }

    void cleanupTestCase() { m_room.reset(); }
};

QTEST_MAIN(TestShare)
#include "test_share.moc"
