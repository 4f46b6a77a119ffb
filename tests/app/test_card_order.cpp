#include "app/review/slip/card_order.h"
#include <QLabel>
#include <QSignalSpy>
#include <QTest>
#include <QVBoxLayout>

using namespace jl;

namespace
{

/// Three cards with handles, shown.
struct Column {
    Column() : order(widget, Theme::paper())
    {
        auto* layout = new QVBoxLayout(&widget);
        for (const char* key : {"knee", "lean", "gaze"}) {
            auto* card = new QWidget(&widget);
            card->setFixedSize(200, 80);
            auto* inside = new QHBoxLayout(card);
            inside->addWidget(new QLabel(key, card), 1);
            handles << order.handle(key, key, *card);
            inside->addWidget(handles.back());
            layout->addWidget(card);
        }
        widget.show();
    }

    /// Presses a handle, moves so far down and lets go; what was wished for.
    QStringList drag(int handle, int down)
    {
        QSignalSpy wishes(&order, &CardOrder::reordered);
        QToolButton* h = handles[handle];
        const QPoint from = h->rect().center();
        QTest::mousePress(h, Qt::LeftButton, {}, from);
        QTest::mouseMove(h, from + QPoint(0, down / 2));
        QTest::mouseMove(h, from + QPoint(0, down));
        lineShown = widget.findChild<QWidget*>("order.line")->isVisible();
        QTest::mouseRelease(h, Qt::LeftButton, {}, from + QPoint(0, down));
        return wishes.isEmpty() ? QStringList() : wishes[0][0].toStringList();
    }

    QWidget widget;
    CardOrder order;
    QList<QToolButton*> handles;
    bool lineShown = false;
};

} // namespace

class TestCardOrder : public QObject
{
    Q_OBJECT

private slots:
    void cardsAreDragged()
    {
        Column c;
        QVERIFY(QTest::qWaitForWindowExposed(&c.widget));
        QCOMPARE(c.drag(2, -300), (QStringList{"gaze", "knee", "lean"}));
        QVERIFY(c.lineShown);
        QVERIFY(!c.widget.findChild<QWidget*>("order.line")->isVisible());
        QCOMPARE(c.drag(0, 100), (QStringList{"lean", "knee", "gaze"}));
        QCOMPARE(c.drag(0, 400), (QStringList{"lean", "gaze", "knee"}));
        QCOMPARE(c.drag(1, 5), QStringList()); // not far enough to change anything
    }

    void arrowsMoveTheCardWithTheFocus()
    {
        Column c;
        QVERIFY(QTest::qWaitForWindowExposed(&c.widget));
        QSignalSpy wishes(&c.order, &CardOrder::reordered);
        QTest::keyClick(c.handles[0], Qt::Key_Up); // is the first already
        QCOMPARE(wishes.size(), 0);
        QTest::keyClick(c.handles[0], Qt::Key_Down);
        QCOMPARE(wishes.takeFirst()[0].toStringList(), (QStringList{"lean", "knee", "gaze"}));
        QTest::keyClick(c.handles[2], Qt::Key_Up);
        QCOMPARE(wishes.takeFirst()[0].toStringList(), (QStringList{"knee", "gaze", "lean"}));
        QTest::keyClick(c.handles[2], Qt::Key_Down);
        QCOMPARE(wishes.size(), 0);
        for (const QToolButton* h : c.handles)
            QVERIFY(!h->accessibleName().isEmpty());
    }
};

QTEST_MAIN(TestCardOrder)
#include "test_card_order.moc"
