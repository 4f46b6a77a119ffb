#pragma once
#include "app/theme/theme.h"
#include <QWidget>

class QLabel;

namespace jl
{

/// A line for messages above a place, closed by hand.
class MessageBar : public QWidget
{
    Q_OBJECT

public:
    explicit MessageBar(const Theme& theme, QWidget* parent = nullptr);

public slots:
    void say(const QString& text);

private:
    QLabel* m_words = nullptr;
};

} // namespace jl
