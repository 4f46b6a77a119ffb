#include "app/desk/desk_page.h"
#include "app/review/ladder/measure_row.h"
#include "app/shell/main_window.h"
#include "base/paths.h"
#include "pipeline/shipped_data.h"
#include <QLabel>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

/// The window without a screen: bringing clips in, refusing what is none, cancelling.
class TestDesk : public QObject
{
    Q_OBJECT

private:
    QTemporaryDir m_dir;
    std::optional<ShippedData> m_data;

    QString file(const char* name, const QByteArray& content)
    {
        QFile f(m_dir.filePath(name));
        f.open(QIODevice::WriteOnly);
        f.write(content);
        return f.fileName();
    }

    struct Bench {
        std::unique_ptr<Library> library;
        ExtractionQueue queue;
        std::unique_ptr<MainWindow> window;
        QString message() const { return window->findChild<QLabel*>("message")->text(); }
    };
    std::unique_ptr<Bench> bench(const QString& folder)
    {
        auto b = std::make_unique<Bench>();
        auto library = Library::open(m_dir.filePath(folder));
        if (!library) qFatal("%s", library.error().message().c_str());
        b->library = std::move(*library);
        b->window = std::make_unique<MainWindow>(Context{*b->library, *m_data, Theme::paper(), b->queue});
        b->window->show();
        return b;
    }

private slots:
    void initTestCase()
    {
        dress(*qApp, Theme::paper());
        auto data = ShippedData::load(dataFolder());
        QVERIFY(data);
        m_data = std::move(*data);
    }

    void badFilesShowTheCommandLinesMessageAndTheWindowGoesOn()
    {
        const auto b = bench("bad");
        b->window->intake().addFiles({file("letter.mp4", "Dear friend")});
        QVERIFY(b->message().contains("letter.mp4"));
        QVERIFY(b->window->findChild<QLabel*>("message")->isVisible());
        b->window->intake().addFiles({m_dir.path()});
        QVERIFY(b->message().contains("folder"));
        b->window->intake().addFiles({"/nowhere/film.mp4"});
        QVERIFY(b->message().contains("no such file"));
        QVERIFY(b->library->clips().empty());
        QVERIFY(b->window->desk().isEnabled());
    }

    void aClipThatBreaksOffFailsOnTheDeskAndCanBeRemoved()
    {
        const auto b = bench("cut");
        QFile whole(QString(TEST_DATA_DIR) + "/clean.mp4");
        QVERIFY(whole.open(QIODevice::ReadOnly));
        b->window->intake().addFiles({file("cut.mp4", whole.readAll().left(whole.size() / 2))});
        QCOMPARE(b->library->clips().size(), std::size_t(1));
        QTRY_COMPARE_WITH_TIMEOUT(b->library->clips().front().state, ClipState::Failed, 120000);
        QVERIFY(b->message().contains("breaks off"));
        QTRY_VERIFY(b->window->findChild<QPushButton*>("remove"));
        QTest::mouseClick(b->window->findChild<QPushButton*>("remove"), Qt::LeftButton);
        QTRY_VERIFY(b->library->clips().empty());
    }

    void extractionShowsProgressAndCanBeCancelled()
    {
        const auto b = bench("cancel");
        QSignalSpy progress(&b->queue, &ExtractionQueue::progress);
        b->window->intake().addFiles({QString(TEST_DATA_DIR) + "/clean.mp4"});
        QTRY_VERIFY_WITH_TIMEOUT(progress.size() > 3, 60000);
        auto* cancel = b->window->findChild<QPushButton*>("cancel");
        QVERIFY(cancel);
        QTest::mouseClick(cancel, Qt::LeftButton);
        QTRY_COMPARE_WITH_TIMEOUT(b->library->clips().front().state, ClipState::Failed, 60000);
        QVERIFY(b->library->clips().front().message.contains("Stopped"));
        QTRY_VERIFY(b->window->findChild<QPushButton*>("retry")); // and it can be tried again
        QVERIFY(b->queue.idle());
    }

    void everyControlHasAName()
    {
        const auto b = bench("names");
        for (QAbstractButton* button : b->window->findChildren<QAbstractButton*>()) {
            if (button->parent()->inherits("QComboBox") || button->inherits("QScrollBar")) continue;
            const bool named = !button->accessibleName().isEmpty() || !button->text().isEmpty() ||
                               qobject_cast<MeasureRow*>(button);
            QVERIFY2(named, qPrintable(button->objectName() + " " + button->metaObject()->className()));
        }
    }
};

QTEST_MAIN(TestDesk)
#include "test_desk.moc"
