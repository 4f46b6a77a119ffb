#include "pipeline/clip_source.h"
#include "support/near.h"
#include "support/shipped.h"
#include "vision/extraction.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

namespace
{

const BodyShape& bodyNamed(const char* id)
{
    for (const BodyShape& b : shipped().bodies)
        if (b.id == id) return b;
    qFatal("no body %s", id);
}

Performance walking(const char* body)
{
    PerformanceRequest request;
    request.form = "bow-walk";
    request.body = bodyNamed(body);
    auto p = Performance::create(shipped().standards, request);
    if (!p) qFatal("%s", p.error().message().c_str());
    return *p;
}

/// How far the hips were from where they are, as a share of the height in the picture; frames in which nobody
/// is seen are left out and counted.
struct Following {
    std::vector<double> off;
    int unseen = 0;

    double shareWithin(double limit) const
    {
        return static_cast<double>(
                   std::count_if(off.begin(), off.end(), [&](double d) { return d < limit; })) /
               static_cast<double>(off.size());
    }
};

Following followed(const Track& track, const Track& truth, double pixels)
{
    Following f;
    for (const BodyFrame& frame : track.frames) {
        if (frame.seen)
            f.off.push_back((midHip(frame) - midHip(truth.frames[truth.nearest(frame.time)])).norm() /
                            pixels);
        else
            ++f.unseen;
    }
    return f;
}

} // namespace

/// Somebody else in the picture.
class TestCompany : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        m_clip.width = 960;
        m_clip.height = 540;
        m_clip.camera.distance = 5;
        m_clip.framesPerSecond = 15;
        m_clip.camera.azimuth = 60;
    }

    void oneIsFollowedThroughACrossing()
    {
        const Performance student = walking("teacher"), other = walking("tall");
        ClipRequest clip = m_clip;
        clip.company = {&other, 0.7, 0.35 * student.duration(), 0.75 * student.duration(), 0};
        const Following f = filmed(student, clip, "crossing", {});
        QVERIFY2(f.unseen < 25, qPrintable(QString("unseen in %1").arg(f.unseen)));
        QVERIFY2(f.shareWithin(0.15) > 0.97, qPrintable(QString("within %1").arg(f.shareWithin(0.15))));
        QVERIFY(f.off.back() < 0.1);
    }

    void aMirrorIsNotFollowed()
    {
        const Performance student = walking("teacher");
        ClipRequest clip = m_clip;
        clip.company.mirror = 1.2;
        const Following f = filmed(student, clip, "mirror", {});
        QVERIFY2(f.shareWithin(0.15) > 0.99, qPrintable(QString("within %1").arg(f.shareWithin(0.15))));
    }

    void anybodyCanBeChosen()
    {
        const Performance student = walking("teacher"), other = walking("tall");
        ClipRequest clip = m_clip;
        clip.company = {&other, 1.3, 0, student.duration(), 0};
        const double when = 0.3 * student.duration();
        const std::string file = m_dir.filePath("chosen.mp4").toStdString();
        QVERIFY(renderClip(student, clip, file));
        const Track truth = exactTrack(student, clip);
        // Where the other walks then, left of the student: within the window that is searched around a click.
        const Eigen::Vector2d hip = midHip(truth.frames[truth.nearest(when)]);
        ExtractionOptions options;
        options.networks = {LandmarkModel::Lite, false};
        options.person = ChosenPerson{when, hip - Eigen::Vector2d(240, 20)};
        const auto track = extractTrack(file, options);
        QVERIFY(track);
        const Following f = followed(*track, truth, bodyPixels(student, clip));
        QVERIFY2(f.shareWithin(0.15) < 0.25, "the student was followed"); // they pass each other
        QVERIFY2(track->seenShare() > 0.4, qPrintable(QString("seen in %1").arg(track->seenShare())));
    }

    void somebodyFarOffIsFound()
    {
        const Performance student = walking("teacher");
        ClipRequest clip = m_clip;
        clip.camera.distance = 9;
        clip.framesPerSecond = 5;
        QVERIFY(bodyPixels(student, clip) < 0.32 * clip.height); // too small for the whole picture's look
        const Following f = filmed(student, clip, "far", {});
        QCOMPARE(f.unseen, 0);
        QVERIFY2(f.shareWithin(0.1) > 0.95, qPrintable(QString("within %1").arg(f.shareWithin(0.1))));
    }

    /// Two threads share the clip; the second begins in a stance in which the clothes look otherwise.
    void whereOneThreadEndsTheNextGoesOn()
    {
        PerformanceRequest request;
        request.form = "sparrow-tail";
        request.body = bodyNamed("sturdy");
        request.seed = 88896;
        const auto student = Performance::create(shipped().standards, request);
        QVERIFY(student);
        ClipRequest clip;
        clip.camera = *cameraPlace("front", 88896);
        clip.framesPerSecond = 15;
        const std::string file = m_dir.filePath("shared.mp4").toStdString();
        QVERIFY(renderClip(*student, clip, file));
        ExtractionOptions options;
        options.networks = {LandmarkModel::Full, false}; // the small one does not lose it
        options.threads = 2;
        const auto track = extractTrack(file, options);
        QVERIFY(track);
        QCOMPARE(track->seenShare(), 1.0);
        const Following f = followed(*track, exactTrack(*student, clip), bodyPixels(*student, clip));
        QVERIFY2(f.shareWithin(0.1) > 0.99, qPrintable(QString("within %1").arg(f.shareWithin(0.1))));
    }

private:
    Following filmed(const Performance& student, const ClipRequest& clip, const char* name,
                     std::optional<ChosenPerson> person)
    {
        const std::string file = m_dir.filePath(QString(name) + ".mp4").toStdString();
        const auto done = renderClip(student, clip, file);
        if (!done) qFatal("%s", done.error().message().c_str());
        ExtractionOptions options;
        options.networks = {LandmarkModel::Lite, false};
        options.person = person;
        const auto track = extractTrack(file, options);
        if (!track) qFatal("%s", track.error().message().c_str());
        return followed(*track, exactTrack(student, clip), bodyPixels(student, clip));
    }

    ClipRequest m_clip;
    QTemporaryDir m_dir;
};

QTEST_APPLESS_MAIN(TestCompany)
#include "test_company.moc"
