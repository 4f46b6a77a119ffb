#include "app/theme/icon.h"
#include "app/theme/theme.h"
#include <QAbstractButton>
#include <QFile>
#include <QPainter>
#include <QPixmap>
#include <QSvgRenderer>

namespace jl
{

QIcon icon(const QString& name, const QColor& colour)
{
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) return {};
    QByteArray svg = file.readAll();
    svg.replace("currentColor", colour.name().toLatin1());
    QSvgRenderer renderer(svg);
    QIcon result;
    for (int size : {20, 40, 60}) {
        QPixmap picture(size, size);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        renderer.render(&painter);
        painter.end();
        result.addPixmap(picture);
    }
    return result;
}

void setPictured(QAbstractButton& button, const QString& name, const Theme& theme)
{
    QIcon both = icon(name, theme.ink);
    both.addPixmap(icon(name, theme.onAccent).pixmap(16, 16), QIcon::Normal, QIcon::On);
    button.setIcon(both);
    button.setIconSize({16, 16});
    button.setFixedWidth(34);
    button.setProperty("pictured", true);
}

} // namespace jl
