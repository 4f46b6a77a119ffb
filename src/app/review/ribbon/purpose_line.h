#pragma once
#include "app/review/model/playhead.h"
#include "app/theme/theme.h"
#include <QWidget>

class QLabel;

namespace jl
{

/// What the posture under the playhead is for, where its force goes, the breath of the phase and one thing to
/// feel.
class PurposeLine : public QWidget
{
    Q_OBJECT

public:
    PurposeLine(const Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

private:
    void fill();

    const Playhead& m_playhead;
    QLabel *m_use = nullptr, *m_feel = nullptr;
};

} // namespace jl
