#include "app/review/model/review_job.h"
#include "exchange/track_pack.h"
#include "media/sound_reader.h"
#include <QFutureWatcher>
#include <QtConcurrentRun>

namespace jl
{

Result<Done> unpackTracks(ReviewOrder& order)
{
    ReviewRequest& request = order.request;
    const auto unpack = [&](const std::string& packed, ReviewClip& clip) -> Result<Done> {
        auto track = unpackTrack(packed, order.file);
        if (!track) return track.error();
        clip.track = std::move(*track);
        return Done{};
    };
    auto done = unpack(order.student, request.student);
    if (done && request.second) done = unpack(order.second, *request.second);
    if (done && request.reference) done = unpack(order.reference, *request.reference);
    return done;
}

Result<MadeReview> madeReview(const ShippedData& data, ReviewOrder order)
{
    const auto done = unpackTracks(order);
    if (!done) return done.error();
    ReviewRequest& request = order.request;
    const std::string form = request.form, school = request.school;
    auto finished = makeReview(data, std::move(request), FormComparison::Later);
    if (!finished) return finished.error();
    MadeReview made{sceneOf(std::move(*finished)), {}, hasSound(order.file)};
    const ClipReading& student = made.scene->student;
    if (!made.scene->reference) {
        // Seen as half way through the form: the opening may stand at one end of the way.
        const BodyPoints halfWay = student.model.at(0.5 * student.model.duration());
        auto film = filmPerformer(data, form, school, student.lead(), student.camera.azimuthFrom(halfWay));
        if (!film) return film.error();
        made.performer = std::move(*film);
    }
    return made;
}

ReviewJob::ReviewJob(const ShippedData& data, QObject* parent) : QObject(parent), m_data(data) {}

ReviewJob::~ReviewJob()
{
    for (QFutureWatcherBase* watcher : findChildren<QFutureWatcherBase*>())
        watcher->waitForFinished();
}

void ReviewJob::start(ReviewOrder order)
{
    const quint64 turn = ++m_turn;
    using Outcome = Result<MadeReview>;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcher<Outcome>::finished, this, [this, watcher, turn] {
        watcher->deleteLater();
        if (turn != m_turn) return;
        const Outcome outcome = watcher->result();
        if (outcome)
            emit made(*outcome);
        else
            emit failed(QString::fromStdString(outcome.error().message()));
    });
    watcher->setFuture(QtConcurrent::run(
        [&data = m_data, order = std::move(order)]() mutable { return madeReview(data, std::move(order)); }));
}

} // namespace jl
