#include "app/jobs/sound_player.h"
#include "media/sound_stream.h"
#include <QAudioSink>
#include <QMediaDevices>
#include <QTimer>
#include <algorithm>
#include <cmath>
#include <optional>

namespace jl
{
namespace
{

constexpr double kApart = 0.12;      ///< s of listening by which sound and pictures may differ
constexpr double kJump = 0.5;        ///< s of the clip that pictures never move on by in one step
constexpr qint64 kPatience = 1000;   ///< ms before it is corrected again
constexpr std::size_t kPiece = 2048; ///< samples
constexpr int kEvery = 15;           ///< ms
constexpr double kBuffer = 0.15;     ///< s

QAudioFormat format()
{
    QAudioFormat f;
    f.setSampleRate(SoundStream::kRate);
    f.setChannelCount(1);
    f.setSampleFormat(QAudioFormat::Int16);
    return f;
}

class Loudspeaker : public SoundOutput
{
public:
    Loudspeaker() : m_sink(QMediaDevices::defaultAudioOutput(), format())
    {
        m_sink.setBufferSize(static_cast<qsizetype>(kBuffer * SoundStream::kRate) * 2);
        m_device = m_sink.start();
    }
    std::size_t room() const override
    {
        return m_device ? static_cast<std::size_t>(m_sink.bytesFree()) / 2 : 0;
    }
    std::size_t waiting() const override
    {
        return static_cast<std::size_t>(m_sink.bufferSize() - m_sink.bytesFree()) / 2;
    }
    void write(const std::vector<float>& samples) override
    {
        std::vector<qint16> coded(samples.size());
        std::transform(samples.begin(), samples.end(), coded.begin(), [](float s) {
            return static_cast<qint16>(std::lround(32767 * std::clamp(s, -1.0F, 1.0F)));
        });
        m_device->write(reinterpret_cast<const char*>(coded.data()), 2 * static_cast<qint64>(coded.size()));
    }

private:
    QAudioSink m_sink;
    QIODevice* m_device = nullptr; ///< the sink's
};

} // namespace

bool hasLoudspeaker()
{
    return !QMediaDevices::defaultAudioOutput().isNull();
}

std::unique_ptr<SoundOutput> loudspeaker()
{
    return hasLoudspeaker() ? std::make_unique<Loudspeaker>() : nullptr;
}

/// Feeds an output from a stream. Lives in the player's thread.
struct SoundPlayer::Worker : public QObject {
    Worker(MakeOutput make, std::shared_ptr<std::atomic<double>> heardTime)
        : makeOutput(std::move(make)), heard(std::move(heardTime)), timer(this)
    {
        timer.setInterval(kEvery);
        connect(&timer, &QTimer::timeout, this, &Worker::feed);
    }

    void start(const std::string& file, double time, double newTempo, const QElapsedTimer& asked)
    {
        end();
        auto opened = SoundStream::open(file, time, newTempo);
        if (!opened) return; // a clip without sound plays in silence
        stream.emplace(std::move(*opened));
        tempo = newTempo;
        output = makeOutput();
        if (!output) return;
        // The pictures went on while the file was being opened.
        stream->take(
            static_cast<std::size_t>(static_cast<double>(asked.nsecsElapsed()) / 1e9 * SoundStream::kRate));
        timer.start();
        feed();
    }

    void end()
    {
        timer.stop();
        output.reset();
        stream.reset();
        *heard = -1;
    }

    void feed()
    {
        while (output->room() >= kPiece) {
            const std::vector<float> piece = stream->take(kPiece);
            if (piece.empty()) { // the end: what waits is still heard
                *heard = -1;
                return timer.stop();
            }
            output->write(piece);
        }
        *heard = stream->time() - static_cast<double>(output->waiting()) / SoundStream::kRate * tempo;
    }

    MakeOutput makeOutput;
    std::shared_ptr<std::atomic<double>> heard;
    std::optional<SoundStream> stream;
    std::unique_ptr<SoundOutput> output;
    double tempo = 1;
    QTimer timer;
};

SoundPlayer::SoundPlayer(MakeOutput output, QObject* parent)
    : QObject(parent), m_heard(std::make_shared<std::atomic<double>>(-1))
{
    m_worker = new Worker(std::move(output), m_heard);
    m_worker->moveToThread(&m_thread);
    connect(&m_thread, &QThread::finished, m_worker, &QObject::deleteLater);
    m_thread.setObjectName("sound");
    m_thread.start();
}

SoundPlayer::~SoundPlayer()
{
    m_thread.quit();
    m_thread.wait();
}

void SoundPlayer::setClip(const QString& file)
{
    if (file == m_file) return;
    stop();
    m_file = file;
}

void SoundPlayer::setOn(bool on)
{
    m_on = on;
    if (!on) stop();
}

void SoundPlayer::follow(double time, double speed)
{
    if (!m_on || m_file.isEmpty()) return;
    const double heard = *m_heard;
    const bool jumped = time < m_time || time > m_time + kJump;
    const bool begins = !m_playing || speed != m_speed || jumped;
    m_time = time;
    const bool apart = heard >= 0 && std::abs(heard - time) > kApart * std::max(speed, 0.5);
    if (!begins && (!apart || m_begun.elapsed() < kPatience)) return;
    m_playing = true;
    m_speed = speed;
    m_begun.start();
    *m_heard = -1; // until it has begun there
    QMetaObject::invokeMethod(m_worker, [worker = m_worker, file = m_file.toStdString(), time, speed,
                                         asked = m_begun] { worker->start(file, time, speed, asked); });
}

void SoundPlayer::stop()
{
    if (!std::exchange(m_playing, false)) return;
    QMetaObject::invokeMethod(m_worker, [worker = m_worker] { worker->end(); });
}

} // namespace jl
