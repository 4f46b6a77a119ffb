#pragma once
#include "app/shell/context.h"
#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace jl
{

/// One clip on the Desk: still, title, whose it is, and how far its extraction is.
class ClipCard : public QWidget
{
    Q_OBJECT

public:
    ClipCard(const ClipRow& clip, const Context& context, QWidget* parent = nullptr);

    qint64 clipId() const { return m_clip.id; }
    void setStill(const QImage& still);
    void setProgress(double share, double secondsLeft);

signals:
    void openRequested(qint64 clip);
    void lookRequested(qint64 clip);
    void cancelRequested(qint64 clip);
    void retryRequested(qint64 clip);
    void removeRequested(qint64 clip);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    ClipRow m_clip;
    const Theme& m_theme;
    QLabel *m_still = nullptr, *m_state = nullptr;
    QProgressBar* m_progress = nullptr;
};

} // namespace jl
