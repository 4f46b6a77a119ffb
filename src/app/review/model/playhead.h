#pragma once
#include "pipeline/review_scene.h"
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

namespace jl
{

/// Where the review looks: the moment in the student's clip, the phase it belongs to and the chosen measure.
/// All parts of the screen follow it.
class Playhead : public QObject
{
    Q_OBJECT

public:
    explicit Playhead(QObject* parent = nullptr);

    /// Where to look first: where the first correction shows best, or where one looked before.
    enum class Place { First, Kept };
    void setScene(std::shared_ptr<const ReviewScene> bundle, Place place = Place::First);
    const ReviewScene* scene() const { return m_scene.get(); }
    std::shared_ptr<const ReviewScene> sharedScene() const { return m_scene; }

    double time() const { return m_time; }
    double referenceTime() const { return m_scene ? m_scene->referenceTimeAt(m_time) : 0; }
    Measure measure() const { return m_measure; }
    bool playing() const { return m_timer.isActive(); }
    double speed() const { return m_speed; }

    /// The phase whose key moment is nearest: indices of posture and phase in the review. While dragged or
    /// played, it is the one that was announced last.
    std::pair<std::size_t, std::size_t> phase() const { return m_phase; }
    const ReviewedPhase* currentPhase() const;

public slots:
    void moveTo(double time);
    /// The same on the way: pictures follow at once, and what belongs to another phase so soon after that
    /// a hand that passes through many phases need not wait for each.
    void passTo(double time);
    void stepFrames(int frames);
    void stepKeyMoment(int direction);
    void stepPosture(int direction);
    /// Goes to the worst moment of a posture, or to the last one of its phases that was found.
    void goToPosture(std::size_t posture);
    void goToPhase(std::size_t posture, std::size_t phase);
    void setPlaying(bool playing);
    void setSpeed(double speed) { m_speed = speed; }
    void setLoop(bool loop) { m_loop = loop; }
    void choose(jl::Measure measure);
    /// Has everything shown again that belongs to the phase, in other units.
    void refresh() { emit phaseChanged(); }

signals:
    void loaded();
    void moved(double time);
    void phaseChanged();
    void measureChosen();
    void playingChanged(bool playing);

private:
    void tick();
    std::pair<std::size_t, std::size_t> nearestPhase() const;
    /// Makes the nearest phase the current one; emits a signal if it changes.
    void arrive();

    std::shared_ptr<const ReviewScene> m_scene;
    double m_time = 0;
    std::pair<std::size_t, std::size_t> m_phase{0, 0};
    QTimer m_arrival;
    Measure m_measure = Measure::KneeLeadPastToe;
    double m_speed = 0.5;
    bool m_loop = false;
    std::pair<double, double> m_loopRange{0, 0};
    QTimer m_timer;
    QElapsedTimer m_clock;
    double m_playedTo = 0; ///< s; the playhead moves when this reaches another frame
};

} // namespace jl
