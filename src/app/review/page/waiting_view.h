#pragma once
#include <QWidget>

class QLabel;
class QSlider;

namespace jl
{

class PictureView;
struct ClipInfo;
struct Theme;

/// What stands in a review's place while a long clip is being measured: its pictures, which can be looked
/// through already.
class WaitingView : public QWidget
{
    Q_OBJECT

public:
    explicit WaitingView(const Theme& theme, QWidget* parent = nullptr);

    /// Shows a clip; its preview serves as soon as it is there.
    void open(const QString& file, const QString& preview);
    /// Hides itself and lets the clip go.
    void clear();

private:
    void showPictures(const ClipInfo& info, const QString& preview);
    void seek(int step);

    PictureView* m_picture = nullptr;
    QSlider* m_slider = nullptr;
    QLabel* m_clock = nullptr;
    QString m_file;        ///< of the clip that is shown
    double m_duration = 0; ///< s
};

} // namespace jl
