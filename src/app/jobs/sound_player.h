#pragma once
#include <QElapsedTimer>
#include <QObject>
#include <QThread>
#include <atomic>
#include <functional>
#include <memory>
#include <vector>

namespace jl
{

/// Where sound goes: one channel of SoundStream::kRate samples a second.
class SoundOutput
{
public:
    virtual ~SoundOutput() = default;
    virtual std::size_t room() const = 0;    ///< samples that it takes now
    virtual std::size_t waiting() const = 0; ///< samples that it has and were not heard yet
    virtual void write(const std::vector<float>& samples) = 0;
};

/// The loudspeaker of this computer; none where there is none.
std::unique_ptr<SoundOutput> loudspeaker();
bool hasLoudspeaker();

/// Plays the sound of a clip beside its pictures, at its own pitch whatever the speed. It decodes in a thread
/// of its own and is synchronised with the pictures repeatedly: it restarts where they have jumped.
class SoundPlayer : public QObject
{
    Q_OBJECT

public:
    using MakeOutput = std::function<std::unique_ptr<SoundOutput>()>; ///< called in the player's thread
    explicit SoundPlayer(MakeOutput output = loudspeaker, QObject* parent = nullptr);
    ~SoundPlayer() override;

    void setClip(const QString& file); ///< empty: nothing to play
    void setOn(bool on);

    /// The pictures play at this time of the clip (s) and speed.
    void follow(double time, double speed);
    void stop();

private:
    struct Worker;
    QThread m_thread;
    Worker* m_worker = nullptr; ///< lives in the thread
    QString m_file;
    bool m_on = false, m_playing = false;
    QElapsedTimer m_begun;
    double m_speed = 1, m_time = 0;               ///< at the last synchronisation, s
    std::shared_ptr<std::atomic<double>> m_heard; ///< s of the clip; below 0 while it begins or has ended
};

} // namespace jl
