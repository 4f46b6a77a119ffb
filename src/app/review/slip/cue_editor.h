#pragma once
#include <QWidget>

namespace jl
{

/// A cue being put in other words; has the focus at once.
class CueEditor : public QWidget
{
    Q_OBJECT

public:
    CueEditor(const QString& cue, QWidget* parent);

signals:
    /// Keep these words; empty: as proposed.
    void kept(const QString& cue);
};

} // namespace jl
