#pragma once
#include "app/shell/main_window.h"
#include "base/paths.h"
#include "exchange/track_file.h"
#include "pipeline/shipped_data.h"
#include <QTemporaryDir>
#include <QtTest>

/// A window on a library, as somebody has it open.
struct ClassRoom {
    std::unique_ptr<jl::Library> library;
    jl::ExtractionQueue queue;
    std::unique_ptr<jl::MainWindow> window;

    /// Opens a clip's review and waits until it is there.
    const jl::Playhead& open(qint64 clip) const
    {
        window->openReview(clip);
        const jl::Playhead& playhead = window->review().playhead();
        if (!QTest::qWaitFor([&] { return playhead.scene() != nullptr; }, 20000)) qFatal("no review");
        return playhead;
    }

    template <class T>
    T* find(const char* name) const
    {
        auto* found = window->findChild<T*>(name);
        if (!found) qFatal("no %s", name);
        return found;
    }
};

/// One student with two clips that were really extracted, from the side and from behind.
class SmallClass
{
public:
    qint64 clip = 0, second = 0;

    /// With the fast network: it will do here.
    void gather()
    {
        jl::dress(*qApp, jl::Theme::paper());
        auto data = jl::ShippedData::load(jl::dataFolder());
        if (!data) qFatal("%s", data.error().message().c_str());
        m_data = std::move(*data);
        const auto library = std::move(*jl::Library::open(folder()));
        m_student = *library->addStudent({0, "Ana Brook", 1.72, {}, "forming", "right hip stiff"});
        clip = add(*library, "Monday, side", "/past-toe");
        second = add(*library, "Monday, from behind", "/behind");
    }

    std::unique_ptr<ClassRoom> open() const
    {
        auto room = std::make_unique<ClassRoom>();
        room->library = std::move(*jl::Library::open(folder()));
        room->window = std::make_unique<jl::MainWindow>(
            jl::Context{*room->library, *m_data, jl::Theme::paper(), room->queue});
        room->window->show();
        room->window->activateWindow();
        return room;
    }

private:
    QString folder() const { return m_dir.filePath("library"); }

    qint64 add(jl::Library& library, const char* title, const char* name) const
    {
        jl::ClipRow row;
        row.title = title;
        row.studentId = m_student;
        const QString base = QString(TEST_DATA_DIR) + name;
        const qint64 id = *library.addClip(base + ".mp4", row);
        const auto track = jl::readTrack((base + ".track.json").toStdString());
        if (!track || !library.saveTrack(id, *track)) qFatal("%s cannot be taken in", name);
        return id;
    }

    QTemporaryDir m_dir;
    std::optional<jl::ShippedData> m_data;
    qint64 m_student = 0;
};
