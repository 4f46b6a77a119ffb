#include "app/theme/choice_box.h"
#include <QStyle>
#include <QStyleOptionComboBox>

namespace jl
{

ChoiceBox::ChoiceBox(const QString& accessibleName, int maxWidth, QWidget* parent) : QComboBox(parent)
{
    setAccessibleName(accessibleName);
    setSizeAdjustPolicy(QComboBox::AdjustToContents);
    setMinimumContentsLength(8);
    setMaximumWidth(maxWidth);
    connect(this, &QComboBox::currentTextChanged, this, [this] { updateGeometry(); });
}

QSize ChoiceBox::sizeHint() const
{
    constexpr int frame = 46, least = 80; // pixels; borders, padding and the arrow of the style sheet
    const int width = std::max(least, fontMetrics().horizontalAdvance(currentText()) + frame);
    return {std::min(width, maximumWidth()), QComboBox::sizeHint().height()};
}

void ChoiceBox::initStyleOption(QStyleOptionComboBox* option) const
{
    QComboBox::initStyleOption(option);
    const QRect text =
        style()->subControlRect(QStyle::CC_ComboBox, option, QStyle::SC_ComboBoxEditField, this);
    option->currentText =
        option->fontMetrics.elidedText(option->currentText, Qt::ElideRight, text.width() - 4);
}

} // namespace jl
