#pragma once
#include "pipeline/review_scene.h"
#include <QFutureWatcher>
#include <QObject>
#include <QTimer>
#include <atomic>
#include <memory>

namespace jl
{

/// Asks in the background whether a clip shows another form than the one it was read as, which keeps the
/// machine busy for some seconds where a form fits badly. It begins when the review has been shown for a
/// while, so that opening one takes no longer.
class FormDoubt : public QObject
{
    Q_OBJECT

public:
    explicit FormDoubt(const ShippedData& data, QObject* parent = nullptr);
    ~FormDoubt() override; ///< stops what is asked

    /// What was asked before is not answered any more.
    void ask(std::shared_ptr<const ReviewScene> scene);
    void drop();

signals:
    /// The doubt in words; empty where there is none.
    void answered(const QString& words);

private:
    using Watcher = QFutureWatcher<std::string>;
    void begin();

    const ShippedData& m_data;
    std::shared_ptr<const ReviewScene> m_next; ///< is asked about when the timer has run out
    QTimer m_calm;
    Watcher* m_asked = nullptr;
    std::shared_ptr<std::atomic<bool>> m_dropped; ///< of what is asked
};

} // namespace jl
