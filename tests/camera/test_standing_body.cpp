#include "camera/standing_body.h"
#include "support/near.h"
#include "support/stick_body.h"
#include <QtTest>

using namespace jl;

namespace
{

double width(const BodyPoints& b)
{
    return (b[index(Landmark::LeftAnkle)] - b[index(Landmark::RightAnkle)]).norm();
}

/// Root of the mean squared distance of two bodies' points.
double distance(const BodyPoints& a, const BodyPoints& b)
{
    double sum = 0;
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        sum += (a[i] - b[i]).squaredNorm();
    return std::sqrt(sum / kLandmarkCount);
}

} // namespace

class TestStandingBody : public QObject
{
    Q_OBJECT

private slots:
    void feetGoApartAndTheRestStays()
    {
        const BodyPoints model = stickBody(), wide = standingWith(model, {0.2, 0, 0});
        VERIFY_NEAR(width(wide), width(model) + 0.2, 1e-9);
        VERIFY_NEAR((wide[index(Landmark::LeftHip)] - model[index(Landmark::LeftHip)]).norm(), 0, 1e-12);
        const BodyPoints aside = standingWith(model, {0, 0.1, 0});
        VERIFY_NEAR(width(aside), width(model), 1e-9);
        VERIFY_NEAR((aside[index(Landmark::LeftHip)] - model[index(Landmark::LeftHip)]).norm(), 0.1, 1e-12);
        VERIFY_NEAR((aside[index(Landmark::LeftAnkle)] - model[index(Landmark::LeftAnkle)]).norm(), 0, 1e-12);
    }

    /// What the picture shows is found, and a usual stance is left as it is.
    void theStanceIsFoundThatIsSeen()
    {
        const BodyPoints model = stickBody();
        for (const StandingChange& c :
             {StandingChange{0.33, 0, 0}, {0.24, 0.09, 0}, {-0.14, -0.12, 0}, {0.1, 0, -11}}) {
            const BodyPoints seen = standingWith(model, c);
            const BodyPoints found =
                standingAsSeen(model, [&](const BodyPoints& b) { return distance(b, seen); });
            QVERIFY2(distance(found, seen) < 0.012, qPrintable(QString::number(distance(found, seen))));
        }
        const BodyPoints usual = standingAsSeen(model, [&](const BodyPoints& b) {
            return distance(b, standingWith(model, {0.02, 0, 0}));
        });
        VERIFY_NEAR(distance(usual, model), 0, 1e-12);
    }
};

QTEST_APPLESS_MAIN(TestStandingBody)
#include "test_standing_body.moc"
