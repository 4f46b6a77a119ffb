#pragma once
#include "app/theme/theme.h"
#include <QTimer>
#include <QWidget>

class QScrollArea;

namespace jl
{

/// Lets a scroll area end after a whole line: covers what would be cut at its lower edge.
class WholeLines : public QWidget
{
    Q_OBJECT

public:
    WholeLines(QScrollArea& area, const Theme& theme);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void place();

    QScrollArea& m_area;
    const Theme& m_theme;
    QTimer m_soon; ///< places it when the layout has settled
};

} // namespace jl
