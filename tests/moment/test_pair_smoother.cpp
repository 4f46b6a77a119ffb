#include "moment/pair_smoother.h"
#include "reading/pair_measurement.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"

using namespace jl;

/// Exact pictures of one performance from two sides, one of them spoilt where a test says so.
class TestPairSmoother : public QObject
{
    Q_OBJECT

private:
    const Performance m_performance = perform("tall", 8);
    std::optional<ClipReading> m_first, m_second;
    std::optional<PairMeasurement> m_pair;
    double m_time = 0; ///< of an arrival, s

    PairWindow window() const
    {
        PairWindow w;
        w.step = 1 / 15.0;
        for (int k = -5; k <= 5; ++k) {
            const double t = m_time + k * w.step;
            w.first.push_back(frameAt(m_first->track, t));
            w.second.push_back(frameAt(m_second->track, t + m_pair->measurer->cameras().offset));
        }
        return w;
    }
    BodyPoints met(const PairWindow& w, std::size_t k = 5) const
    {
        return m_pair->measurer->place(w.first[k], w.second[k]).points;
    }
    SteadyBones bones() const
    {
        const PairWindow w = window();
        std::vector<BodyPoints> bodies;
        for (std::size_t k = 0; k < w.first.size(); ++k)
            bodies.push_back(met(w, k));
        return SteadyBones(bodies);
    }
    std::optional<BodyPoints> smoothed(const PairWindow& w) const
    {
        return smoothTogether(*m_pair->measurer, w, bones(), m_performance.body().height);
    }

private slots:
    void initTestCase()
    {
        m_first = readExact(exactTrack(m_performance, from(90)), m_performance);
        m_second = readExact(exactTrack(m_performance, from(0)), m_performance);
        auto pair = measureTogether(*m_first, *m_second, MeasuringTables{});
        QVERIFY(pair);
        m_pair = std::move(*pair);
        m_time = m_pair->phases.back().phase.time;
    }

    void bonesAreAsLongAsTheyAre()
    {
        const Figure figure = m_performance.figureAt(m_time);
        const SteadyBones found = bones();
        for (std::size_t b = 0; b < SteadyBones::kCount; ++b) {
            const auto [from, to] = SteadyBones::ends(b, Side::Left);
            VERIFY_NEAR(found.length(b), (figure.at(from) - figure.at(to)).norm(), 0.02);
        }
    }

    void whatAgreesStaysAsItIs()
    {
        const PairWindow w = window();
        const auto body = smoothed(w);
        QVERIFY(body);
        const BodyPoints before = met(w);
        for (std::size_t i = 0; i < kLandmarkCount; ++i)
            QVERIFY2(((*body)[i] - before[i]).norm() < 0.005,
                     qPrintable(QString::number(1000 * ((*body)[i] - before[i]).norm())));
    }

    /// One network puts the knee far off for a moment, or a little off throughout.
    void aWrongPointGivesWay()
    {
        PairWindow w = window();
        const std::size_t knee = index(Landmark::LeftKnee);
        const Eigen::Vector3d right = met(w)[knee];
        w.first[5].point[knee].x() += 60; // some 20 cm
        const double before = (met(w)[knee] - right).norm();
        QVERIFY(before > 0.08);
        const auto body = smoothed(w);
        QVERIFY(body);
        QVERIFY2(((*body)[knee] - right).norm() < 0.2 * before,
                 qPrintable(QString("%1 m, was %2").arg(((*body)[knee] - right).norm()).arg(before)));
    }

    /// The same point put there by hand, all along, is where the instructor sees it.
    void whatIsPutInPlaceCounts()
    {
        PairWindow w = window();
        const std::size_t hand = index(Landmark::LeftWrist);
        const Eigen::Vector3d before = met(w)[hand];
        const auto moved = [&](float placed) {
            PairWindow by = w;
            for (BodyFrame& f : by.first) {
                f.point[hand].x() += 25; // some 8 cm
                f.placed[hand] = placed;
            }
            return ((*smoothed(by))[hand] - before).norm();
        };
        QVERIFY2(moved(9) > moved(0) + 0.005, qPrintable(QString("%1, %2").arg(moved(9)).arg(moved(0))));
        QVERIFY(moved(9) > 0.04);
    }

    /// A network that sees a leg shorter than it is: the bone puts the knee back along it.
    void bonesKeepTheirLengths()
    {
        PairWindow w = window();
        const auto length = [](const BodyPoints& p) {
            return (p[index(Landmark::LeftHip)] - p[index(Landmark::LeftKnee)]).norm();
        };
        const double right = length(met(w));
        for (std::size_t k = 0; k < w.first.size(); ++k)
            for (BodyFrame* f : {&w.first[k], &w.second[k]})
                f->point[index(Landmark::LeftKnee)].y() += 8;
        const double before = std::abs(length(met(w)) - right);
        QVERIFY(before > 0.01);
        const auto body = smoothed(w);
        QVERIFY(body);
        QVERIFY(std::abs(length(*body) - right) < 0.6 * before);
    }

    void unseenMomentsAreNotMadeUp()
    {
        PairWindow w = window();
        w.second[2].seen = false;
        QVERIFY(!smoothed(w));
        w = window();
        w.first.pop_back();
        QVERIFY(!smoothed(w));
        QVERIFY(!smoothed(PairWindow{}));
    }
};

QTEST_APPLESS_MAIN(TestPairSmoother)
#include "test_pair_smoother.moc"
