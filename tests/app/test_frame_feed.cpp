#include "app/jobs/frame_feed.h"
#include "app/jobs/performer_feed.h"
#include "support/forms.h"
#include "support/near.h"
#include <QSignalSpy>
#include <QtTest>
#include <atomic>

using namespace jl;

namespace
{

constexpr double kRate = 10; // pictures a second

/// A source whose pictures show which moment they are of, and that counts how often it was asked.
struct Source {
    std::atomic<int> drafts = 0, sharp = 0;
    FrameFeed::Source make()
    {
        return [this](double time, FrameFeed::Quality quality) {
            (quality == FrameFeed::Quality::Sharp ? sharp : drafts) += 1;
            QImage picture(quality == FrameFeed::Quality::Sharp ? 8 : 4, 4, QImage::Format_RGB32);
            picture.fill(QColor(static_cast<int>(std::lround(time * kRate)), 0, 0));
            return picture;
        };
    }
};

} // namespace

class TestFrameFeed : public QObject
{
    Q_OBJECT

private slots:
    void aWindowThatIsBusyFindsOnePictureTheNewest()
    {
        Source source;
        FrameFeed feed([&] { return source.make(); }, kRate);
        QSignalSpy ready(&feed, &FrameFeed::ready);
        for (int i = 0; i < 20; ++i) {
            feed.request(i / kRate);
            while (source.drafts <= i) // no event of this thread is processed meanwhile
                QThread::msleep(1);
        }
        QTRY_VERIFY(!ready.isEmpty() && ready.last().at(1).toDouble() == 19 / kRate);
        QVERIFY2(ready.size() <= 2, qPrintable(QString::number(ready.size())));
        QCOMPARE(qRed(ready.last().at(0).value<QImage>().pixel(0, 0)), 19);
    }

    void whatWasShownIsKeptAndRestBringsItSharp()
    {
        Source source;
        FrameFeed feed([&] { return source.make(); }, kRate);
        QSignalSpy ready(&feed, &FrameFeed::ready);
        feed.request(0.3);
        QTRY_COMPARE(source.sharp.load(), 1);
        QTRY_COMPARE(ready.size(), 2);
        QCOMPARE(ready.last().at(0).value<QImage>().width(), 8);
        feed.request(0.3);
        QTRY_COMPARE(ready.size(), 3);
        QCOMPARE(source.drafts.load(), 1);
        QCOMPARE(ready.last().at(0).value<QImage>().width(), 8);
    }

    void theFilmsCameraSeesItsPerformerWhereItsPointsAre()
    {
        const PerformerFilm film = *filmPerformer(shipped(), "first-eight", "upright-broad", Side::Right, 90);
        QVERIFY(!film.track.frames.empty());
        for (const BodyFrame& frame : film.track.frames) {
            const BodyPoints body = film.bodyAt(frame.time);
            for (std::size_t i = 0; i < kLandmarkCount; ++i)
                QVERIFY((film.camera.project(body[i]) - frame.point[i]).norm() < 1);
        }
    }

    void onceFilmedThePerformerFollowsAHandAndIsDrawnSharpAtRest()
    {
        const PerformerFilm film = *filmPerformer(shipped(), "stand", "upright-broad", Side::Right, 0);
        const QTemporaryDir dir;
        const std::string path = dir.filePath("film.mp4").toStdString();
        const FrameFeed::Source source = film.source(path)();
        using Quality = FrameFeed::Quality;
        const QImage drawn = source(1, Quality::Draft);
        QCOMPARE(drawn.height(), film.track.height);
        QVERIFY(source(1, Quality::Sharp).isNull()); // nothing sharper than what was drawn
        QVERIFY(film.make(path, {}));
        const QImage small = source(1, Quality::Draft);
        QVERIFY(small.height() < drawn.height());
        QVERIFY(source(1, Quality::Sharp) == drawn);
        const QImage again = small.scaled(drawn.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
        double off = 0; // the same moment looks alike in both
        for (int y = 0; y < drawn.height(); ++y)
            for (int x = 0; x < drawn.width(); ++x)
                off += std::abs(qGray(again.pixel(x, y)) - qGray(drawn.pixel(x, y)));
        QVERIFY(off / (drawn.width() * drawn.height()) < 3);
    }
};

QTEST_MAIN(TestFrameFeed)
#include "test_frame_feed.moc"
