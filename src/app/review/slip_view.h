#pragma once
#include "app/review/playhead.h"
#include "app/theme/theme.h"
#include "library/library.h"
#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace jl
{

/// At most three corrections, each as chain, cue and drill, which the instructor accepts, parks or sets
/// aside.
class SlipView : public QWidget
{
    Q_OBJECT

public:
    SlipView(Playhead& playhead, Library& library, const Theme& theme, QWidget* parent = nullptr);

    void setReview(qint64 review, const QString& studentName);

signals:
    void message(const QString& text);

private:
    void rebuild();
    QWidget* card(const Correction& correction);
    void decide(const QString& fault, Decision decision);

    Playhead& m_playhead;
    Library& m_library;
    const Theme& m_theme;
    QLabel* m_title = nullptr;
    QVBoxLayout* m_cards = nullptr;
    qint64 m_review = 0;
    QString m_name;
};

} // namespace jl
