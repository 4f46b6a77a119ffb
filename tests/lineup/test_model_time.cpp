#include "lineup/line_up.h"
#include "standards/model_performance.h"
#include "support/near.h"
#include <QtTest>

using namespace jl;

namespace
{

using Pairs = std::vector<std::pair<double, double>>;

PostureRun runAlong(std::size_t place, Pairs pairs)
{
    PostureRun run;
    run.place = place;
    run.begin = pairs.front().first;
    run.end = pairs.back().first;
    run.timePairs = std::move(pairs);
    return run;
}

/// At the model's own pace for a second, in steps of three samples of a tenth of a second.
Pairs stairs(double clip, double model)
{
    Pairs pairs;
    for (int i = 0; i <= 10; ++i)
        pairs.emplace_back(clip + 0.1 * i, model + 0.3 * ((i + 1) / 3));
    return pairs;
}

double steepest(const Pairs& pairs)
{
    double most = 0;
    for (std::size_t i = 1; i < pairs.size(); ++i)
        most = std::max(most, pairs[i].second - pairs[i - 1].second);
    return most;
}

FoundPhase arrivalAt(double clip, double model)
{
    FoundPhase phase;
    phase.time = clip;
    phase.modelTime = model;
    phase.matched = true;
    return phase;
}

} // namespace

/// What time it is in the model at a time of the clip.
class TestModelTime : public QObject
{
    Q_OBJECT

private slots:
    void theModelMovesBetweenItsFrames()
    {
        ModelPerformance model;
        model.height = 1.6;
        model.framesPerSecond = 10;
        model.frames.resize(3);
        for (std::size_t i = 0; i < 3; ++i)
            model.frames[i].fill(Eigen::Vector3d(static_cast<double>(i * i), 2, 3));
        VERIFY_NEAR(model.scaledTo(1.6, 0.025)[0].x(), 0.25, 1e-9);
        VERIFY_NEAR(model.scaledTo(1.6, 0.15)[7].x(), 2.5, 1e-9);
        VERIFY_NEAR(model.scaledTo(0.8, 0.15)[7].x(), 1.25, 1e-9);
        VERIFY_NEAR(model.scaledTo(1.6, -5)[0].x(), 0, 1e-9);
        VERIFY_NEAR(model.scaledTo(1.6, 5)[0].x(), 4, 1e-9);
    }

    void stairsOfAPathAreTakenOut()
    {
        std::vector<PostureRun> runs{runAlong(3, stairs(0, 10)), runAlong(4, stairs(1, 11))};
        runs[1].timePairs.front().second = 11.2; // a jump where one posture passes into the next
        smoothTimePairs(runs);
        for (const PostureRun& run : runs) {
            for (const auto& [clip, model] : run.timePairs)
                VERIFY_NEAR(model, clip + 10, 0.16);
            QVERIFY2(steepest(run.timePairs) < 0.15, qPrintable(QString::number(steepest(run.timePairs))));
        }
        QVERIFY(runs[1].timePairs.front().first > runs[0].timePairs.back().first);
        QVERIFY(runs[1].timePairs.front().second >= runs[0].timePairs.back().second);
        VERIFY_NEAR(runs[0].timePairs.front().second, 10, 1e-9); // the clip's ends stay
        VERIFY_NEAR(runs[1].timePairs.back().second, 11.9, 1e-9);
    }

    void whatDoesNotFollowInTheFormKeepsItsOwnPath()
    {
        std::vector<PostureRun> runs{runAlong(5, stairs(0, 20)), runAlong(4, stairs(1.1, 11))};
        smoothTimePairs(runs);
        for (const auto& [clip, model] : runs[0].timePairs)
            QVERIFY(model >= 20);
        for (const auto& [clip, model] : runs[1].timePairs)
            QVERIFY(model <= 12);
    }

    void anArrivalMovesThePathAboutIt()
    {
        LineUp lineUp;
        lineUp.runs = {runAlong(1, {{0, 10}, {4, 14}})};
        lineUp.phases = {arrivalAt(1, 11.4), arrivalAt(3, 13)};
        VERIFY_NEAR(lineUp.modelTimeAt(1), 11.4, 1e-9);
        VERIFY_NEAR(lineUp.modelTimeAt(0.2), 10.2 + 0.5, 1e-9); // 0.4, and the tenth for which it is held
        VERIFY_NEAR(lineUp.modelTimeAt(2), 12 + 0.2, 1e-9);     // halfway it has half faded
        VERIFY_NEAR(lineUp.modelTimeAt(3.05), 13, 1e-9);
    }

    void anArrivalBeforeAJumpDoesNotMoveThePathBehindIt()
    {
        LineUp lineUp;
        lineUp.runs = {runAlong(5, {{0, 20}, {2, 22}}), runAlong(1, {{2, 10}, {6, 14}})};
        lineUp.phases = {arrivalAt(5, 13.1), arrivalAt(2, 22)};
        for (double t : {2.2, 3.0, 4.0})
            VERIFY_NEAR(lineUp.modelTimeAt(t), 8 + t, 0.3);
    }
};

QTEST_GUILESS_MAIN(TestModelTime)
#include "test_model_time.moc"
