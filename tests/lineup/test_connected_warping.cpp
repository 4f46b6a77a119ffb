#include "lineup/connected_warping.h"
#include "support/near.h"
#include <QtTest>

using namespace jl;

namespace
{

/// Three postures of twenty states; a state is told by its value, and the last posture may also be done
/// upside down. Series are made of the same values.
class Made
{
public:
    Made()
    {
        for (int item = 0; item < 3; ++item)
            add(item, 1, -1);
        add(2, -1, segments[2].begin);
    }

    static double value(int item, int step) { return 10.0 * (item + 1) + 0.3 * step; }

    ConnectedPath path(const std::vector<double>& series, const ConnectedOptions& options = {},
                       std::span<const double> moved = {}) const
    {
        return warpConnected(
            static_cast<int>(series.size()), segments, 3,
            [&](int i, int j) { return std::min(0.5, 0.05 * std::abs(series[i] - states[j])); }, options,
            moved);
    }

    std::vector<int> items(const ConnectedPath& p) const
    {
        std::vector<int> out;
        for (const WarpedRun& run : p.runs)
            out.push_back(segments[run.segment].item);
        return out;
    }

    std::vector<WarpingSegment> segments;
    std::vector<double> states;

private:
    void add(int item, double sign, int alongside)
    {
        const int begin = static_cast<int>(states.size());
        for (int k = 0; k < 20; ++k)
            states.push_back(sign * value(item, k));
        segments.push_back({begin, begin + 20, item, alongside < 0 ? 0 : 0.1, alongside});
    }
};

void append(std::vector<double>& series, int item, int from = 0, int to = 20, double sign = 1)
{
    for (int k = from; k < to; ++k)
        series.push_back(sign * Made::value(item, k));
}

} // namespace

class TestConnectedWarping : public QObject
{
    Q_OBJECT

private slots:
    void standingStillIsForPauses()
    {
        // The second posture is done so differently that lingering in the third looks nearer.
        std::vector<double> series;
        append(series, 0);
        for (int k = 0; k < 60; ++k)
            series.push_back(Made::value(2, 4) + 0.02 * k - 3);
        append(series, 2, 5);
        const Made made;
        QCOMPARE(made.items(made.path(series)), (std::vector<int>{0, 2}));
        const std::vector<double> pause(series.size(), 0.0), moving(series.size(), 0.02);
        QCOMPARE(made.items(made.path(series, {}, pause)), (std::vector<int>{0, 2}));
        QVERIFY(made.path(series, {}, moving).meanCost > made.path(series, {}, pause).meanCost + 0.01);
        // Going on at any pace that the states allow costs as much as before.
        std::vector<double> whole;
        for (int item : {0, 1, 2})
            append(whole, item);
        QCOMPARE(made.path(whole, {}, std::vector<double>(whole.size(), 0.02)).meanCost, 0.0);
    }

    /// Whoever only wants to beat a cost is spared the rest of the way.
    void whatCannotBeatALimitIsGivenUp()
    {
        std::vector<double> series;
        for (int item : {0, 1, 2})
            append(series, item);
        for (std::size_t i = 0; i < series.size(); ++i)
            series[i] += i % 2 ? 1.5 : -1.5; // to and fro, which no pace explains
        const Made made;
        const ConnectedPath free = made.path(series);
        QVERIFY(free.meanCost > 0.02);
        ConnectedOptions options;
        options.limit = 1.01 * free.meanCost;
        const ConnectedPath within = made.path(series, options);
        QCOMPARE(within.meanCost, free.meanCost);
        QCOMPARE(made.items(within), made.items(free));
        options.limit = 0.9 * free.meanCost;
        const ConnectedPath beyond = made.path(series, options);
        QVERIFY(beyond.runs.empty());
        QCOMPARE(beyond.meanCost, options.limit);
        // It is given up on the way: the last samples are not looked at.
        int last = 0;
        options.limit = 0.3 * free.meanCost;
        warpConnected(
            static_cast<int>(series.size()), made.segments, 3,
            [&](int i, int j) {
                last = std::max(last, i);
                return 0.05 * std::abs(series[i] - made.states[j]);
            },
            options);
        QVERIFY2(last < static_cast<int>(series.size()) / 2, qPrintable(QString::number(last)));
    }

    void whatKeepsTheOrderCostsNothing()
    {
        std::vector<double> series;
        for (int item : {0, 1, 2})
            append(series, item);
        const Made made;
        const auto path = made.path(series);
        QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
        QCOMPARE(path.meanCost, 0.0);
        QCOMPARE(path.strangers, 0);
        for (const WarpedRun& run : path.runs) {
            QCOMPARE(run.steps.size(), std::size_t(20));
            for (const auto& [i, j] : run.steps)
                QCOMPARE(i, j); // sample for sample
        }
    }

    void departuresAreFound_data()
    {
        QTest::addColumn<QList<int>>("order");
        QTest::newRow("left out") << QList<int>{0, 2};
        QTest::newRow("repeated") << QList<int>{0, 1, 1, 2};
        QTest::newRow("exchanged") << QList<int>{1, 0, 2};
        QTest::newRow("begun late") << QList<int>{1, 2};
        QTest::newRow("ended early") << QList<int>{0, 1};
    }

    void departuresAreFound()
    {
        QFETCH(QList<int>, order);
        std::vector<double> series;
        for (int item : order)
            append(series, item);
        const Made made;
        QCOMPARE(made.items(made.path(series)), std::vector<int>(order.begin(), order.end()));
    }

    void aClipMayBeginAndEndInTheMiddle()
    {
        std::vector<double> series;
        append(series, 0, 12);
        append(series, 1);
        append(series, 2, 0, 7);
        const Made made;
        const auto path = made.path(series);
        QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
        QCOMPARE(path.runs.front().steps.front().second, 12);
        QCOMPARE(path.runs.back().steps.back().second, made.segments[2].begin + 6);
    }

    void pausesAreStoodThrough()
    {
        std::vector<double> series;
        append(series, 0);
        append(series, 1, 0, 9);
        for (int k = 0; k < 30; ++k)
            series.push_back(Made::value(1, 8));
        append(series, 1, 9);
        append(series, 2);
        const Made made;
        const auto path = made.path(series);
        QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
        QCOMPARE(path.runs[1].steps.size(), std::size_t(50));
    }

    void whatBelongsToNothingIsLeftAside()
    {
        std::vector<double> series(15, -90.0); // talk before, between and after
        append(series, 0);
        series.insert(series.end(), 10, -90.0);
        append(series, 1);
        append(series, 2);
        series.insert(series.end(), 8, -90.0);
        const Made made;
        const auto path = made.path(series);
        QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
        QCOMPARE(path.strangers, 33);
        QCOMPARE(path.runs.front().steps.front().first, 15);
    }

    void anotherWayMayBeTakenOnTheWay()
    {
        std::vector<double> series;
        append(series, 0);
        append(series, 1);
        append(series, 2, 0, 6);
        append(series, 2, 6, 20, -1); // it turns over in the middle
        const Made made;
        const auto path = made.path(series);
        QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
        QCOMPARE(path.runs.back().segment, 3);
        QCOMPARE(path.runs.back().steps.front().second, made.segments[2].begin);
        QCOMPARE(path.runs.back().steps.back().second, made.segments[3].end - 1);
    }

    void tempoMayDoubleAndHalve()
    {
        std::vector<double> fast, slow;
        for (int item : {0, 1, 2})
            for (int k = 0; k < 20; ++k) {
                if (k % 2 == 0) fast.push_back(Made::value(item, k));
                slow.push_back(Made::value(item, k));
                slow.push_back(Made::value(item, k));
            }
        const Made made;
        for (const auto& series : {fast, slow}) {
            const auto path = made.path(series);
            QCOMPARE(made.items(path), (std::vector<int>{0, 1, 2}));
            QVERIFY(path.meanCost < 0.02);
        }
    }

    void nothingGivesNothing()
    {
        const Made made;
        QVERIFY(made.path({}).runs.empty());
        const auto strange = made.path(std::vector<double>(40, -500.0));
        QVERIFY(strange.runs.empty());
        QCOMPARE(strange.strangers, 40);
    }

    /// The last posture looks different at its beginning when it is not come to from the one before it.
    void aWayFromElsewhereIsTakenFromElsewhereOnly()
    {
        Made made;
        const int begin = static_cast<int>(made.states.size());
        for (int k = 0; k < 20; ++k)
            made.states.push_back(k < 10 ? 70 + 0.3 * k : Made::value(2, k));
        made.segments.push_back({begin, begin + 20, 2});
        made.segments.back().fromElsewhere = true;
        const int fromElsewhere = static_cast<int>(made.segments.size()) - 1;
        const auto arrivesOddly = [&](std::vector<double> series) {
            for (int k = 0; k < 20; ++k)
                series.push_back(made.states[static_cast<std::size_t>(begin + k)]);
            return made.path(series).runs.back().segment;
        };
        std::vector<double> skipped, inOrder;
        append(skipped, 0);
        append(inOrder, 0);
        append(inOrder, 1);
        QCOMPARE(arrivesOddly(skipped), fromElsewhere);
        QVERIFY(arrivesOddly(inOrder) != fromElsewhere);
    }

    void aSeriesBeginsInTheMiddleOfWhatItMay()
    {
        Made made; // its last posture also upside down
        made.segments[3].alongside = -1;
        std::vector<double> series;
        for (int k = 5; k < 20; ++k)
            series.push_back(-Made::value(2, k));
        const auto first = [&] { return made.path(series).runs.front().steps.front().second; };
        QCOMPARE(first(), made.segments[3].begin + 5);
        made.segments[3].mayBegin = false;
        QCOMPARE(first(), made.segments[3].begin);
    }

    /// The second posture done oddly, and how the third then looks, belong together: each alone has its
    /// price.
    void whatFollowsAWayIsFreeAfterItOnly()
    {
        Made made;
        const auto addOddly = [&](int item, double off, int after) {
            const int begin = static_cast<int>(made.states.size());
            for (int k = 0; k < 20; ++k)
                made.states.push_back(Made::value(item, k) + off);
            made.segments.push_back({begin, begin + 20, item, 0.4});
            made.segments.back().after = after;
            return static_cast<int>(made.segments.size()) - 1;
        };
        const int second = addOddly(1, 100, -1), third = addOddly(2, 100, second);
        std::vector<double> both, thirdAlone;
        for (int item : {0, 1, 2})
            for (int k = 0; k < 20; ++k) {
                both.push_back(Made::value(item, k) + (item > 0 ? 100 : 0));
                thirdAlone.push_back(Made::value(item, k) + (item > 1 ? 100 : 0));
            }
        const ConnectedPath path = made.path(both);
        QCOMPARE(path.runs.size(), std::size_t(3));
        QCOMPARE(path.runs[1].segment, second);
        QCOMPARE(path.runs[2].segment, third);
        QCOMPARE(path.runs[2].steps.size(), std::size_t(20));
        VERIFY_NEAR(path.meanCost * 60, 0.4, 1e-9);
        made.segments[static_cast<std::size_t>(third)].onlyAfter = true;
        QCOMPARE(made.path(both).runs[2].segment, third);
        QVERIFY(made.path(thirdAlone).runs.back().segment != third);
        made.segments[static_cast<std::size_t>(third)].onlyAfter = false;
        const ConnectedPath alone = made.path(thirdAlone);
        QCOMPARE(alone.runs.back().segment, third);
        VERIFY_NEAR(alone.meanCost * 60, 0.4, 1e-9);
    }
};

QTEST_APPLESS_MAIN(TestConnectedWarping)
#include "test_connected_warping.moc"
