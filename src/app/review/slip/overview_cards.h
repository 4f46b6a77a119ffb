#pragma once
#include "app/shell/context.h"
#include "review/progress.h"
#include <QWidget>

namespace jl
{

/// How somebody stands before the form: one line that says how much of it is as it should be, unfolded a line
/// for each thing that is looked at, and what to do where it is not. Unfolded at first where something is
/// off.
class StandingCard : public QWidget
{
    Q_OBJECT

public:
    StandingCard(const Standing& standing, const Theme& theme, QWidget* parent);

signals:
    /// Somebody wants to see the moment.
    void asked();

private:
    QWidget* pointLine(const StandingPoint& point, const Theme& theme);
};

/// What differs between the two sides of the form, a sentence each; null where nothing does.
QWidget* sidesCard(const Review& review, const Theme& theme, QWidget* parent);

/// What was corrected before and is better now: it deserves to be said. Null where there is nothing.
QWidget* progressLine(const ProgressSince& progress, const Review& review, const Context& context,
                      QWidget* parent);

} // namespace jl
