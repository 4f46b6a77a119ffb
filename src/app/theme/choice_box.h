#pragma once
#include <QComboBox>

namespace jl
{

/// A combo box that says with three dots that its text goes on; the list shows all of it.
class ChoiceBox : public QComboBox
{
    Q_OBJECT

public:
    /// As wide as what is chosen, up to a width, pixels.
    ChoiceBox(const QString& accessibleName, int maxWidth, QWidget* parent = nullptr);
    QSize sizeHint() const override;

protected:
    void initStyleOption(QStyleOptionComboBox* option) const override;
};

} // namespace jl
