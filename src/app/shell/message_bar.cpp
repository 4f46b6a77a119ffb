#include "app/shell/message_bar.h"
#include "app/theme/icon.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

namespace jl
{

MessageBar::MessageBar(const Theme& theme, QWidget* parent) : QWidget(parent)
{
    setAutoFillBackground(true);
    QPalette colours = palette();
    colours.setColor(QPalette::Window, theme.chosen);
    setPalette(colours);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 6, 8, 6);
    m_words = new QLabel(this);
    m_words->setObjectName("message");
    m_words->setWordWrap(true);
    auto* close = new QToolButton(this);
    close->setIcon(icon("x", theme.ink));
    close->setAccessibleName(tr("Close the message"));
    connect(close, &QToolButton::clicked, this, &QWidget::hide);
    row->addWidget(m_words, 1);
    row->addWidget(close);
    hide();
}

void MessageBar::say(const QString& text)
{
    m_words->setText(text);
    show();
}

} // namespace jl
