#pragma once
#include "app/shell/place_actions.h"
#include "app/theme/theme.h"
#include <QDialog>

class QLineEdit;
class QTreeWidget;

namespace jl
{

/// Everything that can be done now, found by typing a few letters of it; Enter does it.
class CommandPalette : public QDialog
{
    Q_OBJECT

public:
    CommandPalette(std::vector<PlaceAction> actions, const Theme& theme, QWidget* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter(const QString& text);
    void run();

    const std::vector<PlaceAction> m_actions;
    const Theme& m_theme;
    QLineEdit* m_text = nullptr;
    QTreeWidget* m_list = nullptr;
};

} // namespace jl
