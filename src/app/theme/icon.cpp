#include "app/theme/icon.h"
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

} // namespace jl
