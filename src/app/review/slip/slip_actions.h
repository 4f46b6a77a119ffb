#pragma once
#include "review/review.h"
#include <QWidget>

namespace jl
{

/// Under the cards: the page for the student, a moving picture, a finding of her own, and one more
/// correction.
class SlipActions : public QWidget
{
    Q_OBJECT

public:
    /// `further` are the corrections that may still be added; `ready` whether there is something to send.
    SlipActions(const std::vector<Correction>& further, bool ready, QWidget* parent = nullptr);

signals:
    void ownWanted();
    void furtherWanted(const jl::Correction& correction);
    void pageWanted();
    void movingWanted();
};

} // namespace jl
