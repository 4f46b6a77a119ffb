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
}

QSize ChoiceBox::sizeHint() const
{
    constexpr int frame =
        48; // pixels: borders, padding and the arrow of the style sheet, which Qt does not add
    QSize hint = QComboBox::sizeHint();
    for (int i = 0; i < count(); ++i)
        hint.setWidth(std::max(hint.width(), fontMetrics().horizontalAdvance(itemText(i)) + frame));
    return hint.boundedTo(QSize(maximumWidth(), hint.height()));
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
