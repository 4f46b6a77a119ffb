#include "app/review/model/form_doubt.h"
#include "pipeline/form_fit.h"
#include <QtConcurrentRun>

namespace jl
{

FormDoubt::FormDoubt(const ShippedData& data, QObject* parent) : QObject(parent), m_data(data)
{
    constexpr int shown = 2500; // ms
    m_calm.setSingleShot(true);
    m_calm.setInterval(shown);
    connect(&m_calm, &QTimer::timeout, this, &FormDoubt::begin);
}

FormDoubt::~FormDoubt()
{
    drop();
    for (Watcher* watcher : findChildren<Watcher*>(Qt::FindDirectChildrenOnly))
        watcher->waitForFinished(); // it reads what may be gone afterwards
}

void FormDoubt::drop()
{
    m_calm.stop();
    m_next.reset();
    if (m_dropped) *m_dropped = true;
    m_asked = nullptr;
}

void FormDoubt::ask(std::shared_ptr<const ReviewScene> scene)
{
    drop();
    m_next = std::move(scene);
    m_calm.start();
}

void FormDoubt::begin()
{
    m_dropped = std::make_shared<std::atomic<bool>>(false);
    auto* watcher = m_asked = new Watcher(this);
    connect(watcher, &Watcher::finished, this, [this, watcher] {
        watcher->deleteLater();
        if (watcher != m_asked) return;
        m_asked = nullptr;
        emit answered(QString::fromStdString(watcher->result()));
    });
    watcher->setFuture(QtConcurrent::run([&data = m_data, scene = std::move(m_next), dropped = m_dropped] {
        return formDoubt(data, scene->student, scene->review.school, scene->review.form,
                         [&](double) { return !*dropped; });
    }));
}

} // namespace jl
