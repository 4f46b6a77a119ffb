#pragma once
#include "app/shell/context.h"
#include "review/review.h"
#include <QWidget>

namespace jl
{

/// Under the cards: a finding of her own, one more correction, the week's practice, and the page for the
/// student.
class SlipActions : public QWidget
{
    Q_OBJECT

public:
    /// `further` are the corrections that may still be added; `accepted` how many are on the slip.
    SlipActions(const std::vector<Correction>& further, int accepted, bool teaches, Library& library,
                QWidget* parent = nullptr);

signals:
    void ownWanted();
    void furtherWanted(const jl::Correction& correction);
    void planWanted(const QString& file, int minutes);
    void pageWanted();
};

} // namespace jl
