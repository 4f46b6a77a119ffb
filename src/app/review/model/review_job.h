#pragma once
#include "app/jobs/performer_feed.h"
#include "pipeline/review_scene.h"
#include <QObject>

namespace jl
{

/// What a review in the window is made from. Tracks are unpacked where the review is made.
struct ReviewOrder {
    ReviewRequest request;                  ///< without tracks
    std::string student, second, reference; ///< packed tracks; empty where there is none
    std::string file;                       ///< the student's clip
};

/// Fills in the tracks of the order's request.
Result<Done> unpackTracks(ReviewOrder& order);

/// A finished review with what is shown beside the student.
struct MadeReview {
    std::shared_ptr<const ReviewScene> scene;
    PerformerFilm performer; ///< empty where somebody else is the reference
    bool hasSound = false;   ///< the student's clip has one
};

/// For any thread. The comparison with other forms is left for later (FormComparison).
Result<MadeReview> madeReview(const ShippedData& data, ReviewOrder order);

/// Makes reviews in the background. The result of an order that a later one overtakes is dropped.
class ReviewJob : public QObject
{
    Q_OBJECT

public:
    explicit ReviewJob(const ShippedData& data, QObject* parent = nullptr);
    ~ReviewJob() override; ///< waits for what is being made: it reads the data

    void start(ReviewOrder order);

signals:
    void made(const jl::MadeReview& review);
    void failed(const QString& why);

private:
    const ShippedData& m_data;
    quint64 m_turn = 0; ///< counts orders
};

} // namespace jl
