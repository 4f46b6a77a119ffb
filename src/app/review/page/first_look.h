#pragma once
#include "draw/pair_picture.h"
#include <QWidget>

class QPushButton;

namespace jl
{

class PairPreview;

/// For somebody who has ten seconds: what matters most in one picture, with one sentence and one button.
/// Lies over the review; a click beside the button, or Escape, takes it away.
class FirstLook : public QWidget
{
    Q_OBJECT

public:
    FirstLook(const Theme& theme, QWidget* parent);

    /// Shows a passage at its moment; without one, that there is nothing to correct.
    void show(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
              const std::optional<PairPassage>& passage);

signals:
    /// What is shown is to be taught.
    void accepted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    const Theme& m_theme;
    PairPreview* m_picture = nullptr;
    QPushButton* m_accept = nullptr;
};

} // namespace jl
