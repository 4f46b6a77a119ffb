#include "app/theme/theme.h"
#include "draw/fonts.h"
#include <QApplication>
#include <QPalette>
#include <QScreen>

/// Makes the shipped icons known; must stand outside of any namespace.
static void loadResources()
{
    Q_INIT_RESOURCE(interface);
}

namespace jl
{

QFont textFont(double size, int weight)
{
    QFont font = QApplication::font();
    font.setPointSizeF(font.pointSizeF() * size);
    font.setWeight(static_cast<QFont::Weight>(weight));
    return font;
}

void dress(QApplication& application, const Theme& t)
{
    loadResources();
    loadFonts(); // where they are missing another typeface takes their place
    QFont font("Lato");
    // One step larger where there is room for it.
    constexpr double usual = 10.5, large = 11.5; // points
    constexpr int roomyScreen = 1800;            // pixels across
    const QScreen* screen = QGuiApplication::primaryScreen();
    font.setPointSizeF(screen && screen->availableSize().width() >= roomyScreen ? large : usual);
    application.setStyle("Fusion");
    application.setFont(font);
    QPalette p;
    p.setColor(QPalette::Window, t.ground);
    p.setColor(QPalette::Base, t.raised);
    p.setColor(QPalette::AlternateBase, t.ground);
    p.setColor(QPalette::Button, t.raised);
    for (auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        p.setColor(role, t.ink);
    p.setColor(QPalette::PlaceholderText, t.quiet);
    p.setColor(QPalette::ToolTipBase, t.raised);
    p.setColor(QPalette::Highlight, t.pine);
    p.setColor(QPalette::HighlightedText, t.onAccent);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, t.quiet);
    application.setPalette(p);

    const auto n = [](const QColor& c) { return c.name(); };
    application.setStyleSheet(
        QString(R"(
        QPushButton { background: %1; border: 1px solid %2; border-radius: 8px; padding: 4px 12px; color: %3; }
        QPushButton:hover { border-color: %4; }
        QPushButton:focus, QComboBox:focus, QToolButton:focus { border: 2px solid %5; }
        QPushButton:checked { background: %4; color: %6; border-color: %4; }
        QPushButton[accent="true"] { background: %7; color: %6; border-color: %7; font-weight: 600; }
        QPushButton:disabled, QPushButton[accent="true"]:disabled { color: %8; background: %1; border-color: %2; }
        QPushButton[pictured="true"] { padding: 4px 6px; }
        QPushButton[narrow="true"] { padding: 4px 8px; }
        QPushButton:flat { background: transparent; border-color: transparent; color: %5; padding: 4px 6px; }
        QPushButton:flat:hover { background: %9; }
        QPushButton:flat:checked { background: transparent; color: %5; border-color: transparent; }
        QPushButton:flat:focus { border: 2px solid %5; }
        QPushButton:flat:disabled { color: %8; }
        QPushButton::menu-indicator { image: none; }
        QMenu { background: %1; border: 1px solid %2; padding: 4px; }
        QMenu::item { padding: 5px 16px; border-radius: 4px; }
        QMenu::item:selected { background: %9; color: %3; }
        QTreeView { background: transparent; border: 0; outline: 0; }
        QTreeView::item { height: 24px; border: 0; color: %3; }
        QTreeView::item:hover, QTreeView::item:selected { background: %9; color: %3; }
        QLineEdit, QPlainTextEdit { background: %1; border: 1px solid %2; border-radius: 8px; padding: 3px 6px; color: %3; }
        QLineEdit:focus, QPlainTextEdit:focus { border: 2px solid %5; }
        QComboBox { background: %1; border: 1px solid %2; border-radius: 8px; padding: 3px 8px; color: %3; }
        QComboBox::drop-down { border: 0; width: 22px; }
        QComboBox::down-arrow { image: url(%10); width: 14px; height: 14px; }
        QComboBox QAbstractItemView { background: %1; color: %3; border: 1px solid %2; selection-background-color: %9; selection-color: %3; }
        QToolButton { background: transparent; border: 2px solid transparent; border-radius: 8px; padding: 3px; }
        QToolButton[handle="true"] { padding: 0; }
        QToolButton:hover { background: %9; }
        QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: 0; }
        QScrollBar:vertical { width: 8px; background: transparent; }
        QScrollBar::handle:vertical { background: %2; border-radius: 4px; min-height: 24px; }
        QScrollBar::add-line, QScrollBar::sub-line { height: 0; }
        QProgressBar { background: %2; border: 0; border-radius: 3px; height: 6px; }
        QProgressBar::chunk { background: %4; border-radius: 3px; }
        QToolTip { background: %1; color: %3; border: 1px solid %2; padding: 4px; }
    )")
            .arg(n(t.raised), n(t.line), n(t.ink), n(t.pine), n(t.indigo), n(t.onAccent), n(t.lantern),
                 n(t.quiet), n(t.chosen),
                 t.ground.lightness() < 128 ? ":/icons/chevron-down-dusk.svg" : ":/icons/chevron-down.svg"));
}

} // namespace jl
