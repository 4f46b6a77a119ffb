#include "draw/slip_page.h"
#include "draw/fonts.h"
#include <QPageLayout>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextLayout>
#include <cmath>

namespace jl
{
namespace
{

/// All lengths of the page are in points; a painter is scaled to them.
constexpr double kMargin = 30, kGap = 9, kPictureGap = 5;
/// Sizes of text and pictures against the usual; smaller ones cannot be read. Chosen on one and three
/// corrections with a plan of the week.
constexpr double kSmallest = 0.45, kLargestA5 = 1.15, kLargestA4 = 1.5;

QSizeF sizeOf(PaperSize paper)
{
    return QPageSize::size(paper == PaperSize::A5 ? QPageSize::A5 : QPageSize::A4, QPageSize::Point);
}

/// The page without its margins.
QRectF areaOf(PaperSize paper)
{
    return QRectF(QPointF(), sizeOf(paper)).adjusted(kMargin, kMargin, -kMargin, -kMargin);
}

/// Text and pictures set one below the other in a column, or only measured. Everything is scaled by `scale`.
class Column
{
public:
    Column(QPainter* painter, const QRectF& area, double scale)
        : m_painter(painter), m_area(area), m_scale(scale), m_y(area.top())
    {
    }

    double y() const { return m_y; }
    double scale() const { return m_scale; }
    double width() const { return m_area.width(); }
    void skip(double points) { m_y += points * m_scale; }
    void moveTo(double y) { m_y = y; }
    Column beside(double left, double width) const
    {
        return {m_painter, QRectF(left, m_y, width, m_area.bottom() - m_y), m_scale};
    }

    void text(const QString& words, double points, const QColor& colour, int weight = QFont::Normal)
    {
        if (words.isEmpty()) return;
        // Fonts have whole pixels: they are laid out ten times as large as they are painted.
        constexpr double finer = 10;
        const double width = m_area.width() * finer;
        QTextLayout layout(words, face(points * m_scale * finer, weight));
        layout.beginLayout();
        double height = 0;
        for (QTextLine line = layout.createLine(); line.isValid(); line = layout.createLine()) {
            line.setLineWidth(width);
            line.setPosition({0, height});
            height += 1.16 * line.height();
        }
        layout.endLayout();
        if (m_painter) {
            m_painter->save();
            m_painter->translate(m_area.left(), m_y);
            m_painter->scale(1 / finer, 1 / finer);
            m_painter->setPen(colour);
            layout.draw(m_painter, {});
            m_painter->restore();
        }
        m_y += height / finer;
    }

    void picture(const QImage& image, double left, double width)
    {
        if (!m_painter || image.isNull()) return;
        m_painter->drawImage(QRectF(left, m_y, width, width * image.height() / image.width()), image);
    }

    void line(const QColor& colour)
    {
        if (!m_painter) return;
        m_painter->setPen(QPen(colour, 0.6));
        m_painter->drawLine(QPointF(m_area.left(), m_y), QPointF(m_area.right(), m_y));
    }

private:
    QPainter* m_painter;
    QRectF m_area;
    double m_scale, m_y;
};

QString q(std::string_view words)
{
    return QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size()));
}

/// Sets a slip into a column.
class Setting
{
public:
    Setting(const Slip& slip, const std::vector<SlipPictures>& pictures, const Theme& theme)
        : m_slip(slip), m_pictures(pictures), m_theme(theme)
    {
    }

    /// Where the cues came to stand.
    const std::vector<QRectF>& cues() const { return m_cues; }

    void set(Column& c)
    {
        m_cues.clear();
        c.text(m_slip.student.empty() ? q(m_slip.form) : q(m_slip.student), 17, m_theme.ink, QFont::Bold);
        c.text(m_slip.student.empty() ? q(dayWords(m_slip.day))
                                      : q(m_slip.form) + "  \u00b7  " + q(dayWords(m_slip.day)),
               9, m_theme.quiet);
        c.skip(kGap);
        list(c, q(kSlipWords.better), m_slip.better, m_theme.pine);
        if (m_slip.items.empty()) c.text(q(kSlipWords.nothing), 12, m_theme.ink);
        for (std::size_t i = 0; i < m_slip.items.size(); ++i)
            item(c, i);
        list(c, q(kSlipWords.practice), m_slip.practice, m_theme.indigo);
        list(c, q(kSlipWords.cautions), m_slip.cautions, m_theme.ochre);
    }

private:
    void list(Column& c, const QString& heading, const std::vector<std::string>& lines,
              const QColor& colour) const
    {
        if (lines.empty()) return;
        c.text(heading, 9.5, colour, QFont::Bold);
        for (const std::string& line : lines)
            c.text(QStringLiteral("\u2013 ") + q(line), 8.5, m_theme.ink);
        c.skip(kGap);
    }

    /// The pair of pictures on the left, the words beside it.
    void item(Column& c, std::size_t i)
    {
        const SlipItem& item = m_slip.items[i];
        c.line(m_theme.line);
        c.skip(0.7 * kGap);
        const bool pictured = i < m_pictures.size() && !m_pictures[i].student.isNull();
        const double one = 0.21 * c.width() * std::min(1.0, c.scale()), gap = kPictureGap * c.scale(),
                     pair = pictured ? 2 * one + gap : 0, left = kMargin + (pictured ? pair + 1.6 * gap : 0);
        const double top = c.y();
        double bottom = top;
        if (pictured) {
            c.picture(m_pictures[i].student, kMargin, one);
            c.picture(m_pictures[i].reference, kMargin + one + gap, one);
            bottom = top + one * kSlipPictureHeight / kSlipPictureWidth;
            Column under = c.beside(kMargin, one), other = c.beside(kMargin + one + gap, one);
            under.moveTo(bottom + 1);
            other.moveTo(bottom + 1);
            under.text(q(kSlipWords.student), 7.5, m_theme.lantern, QFont::DemiBold);
            other.text(q(kSlipWords.aim), 7.5, m_theme.pine, QFont::DemiBold);
            bottom = under.y();
        }
        Column words = c.beside(left, c.width() - (left - kMargin));
        words.text(QString("%1. %2").arg(i + 1).arg(q(item.title)), 12.5, m_theme.ink, QFont::Bold);
        words.skip(1.5);
        const double cueTop = words.y();
        words.text(q(item.cue), 10.5, m_theme.lantern, QFont::DemiBold);
        m_cues.emplace_back(left, cueTop, words.width(), words.y() - cueTop);
        words.skip(1.5);
        words.text(q(item.reason), 9, m_theme.ink);
        words.text(q(drillLine(item)), 9, m_theme.indigo);
        words.text(q(oftenLine(item)), 8, m_theme.quiet);
        words.text(q(purposeLine(item)), 8, m_theme.quiet);
        c.moveTo(std::max(bottom, words.y()));
        c.skip(kGap);
    }

    const Slip& m_slip;
    const std::vector<SlipPictures>& m_pictures;
    const Theme& m_theme;
    std::vector<QRectF> m_cues;
};

} // namespace

SlipPage::SlipPage(Slip slip, std::vector<SlipPictures> pictures, const Theme& theme)
    : m_slip(std::move(slip)), m_pictures(std::move(pictures)), m_theme(theme)
{
}

double SlipPage::scaleFor(PaperSize paper) const
{
    const QRectF area = areaOf(paper);
    const auto fits = [&](double scale) {
        Column measured(nullptr, area, scale);
        Setting(m_slip, m_pictures, m_theme).set(measured);
        return measured.y() <= area.bottom();
    };
    double scale = paper == PaperSize::A4 ? kLargestA4 : kLargestA5;
    while (scale > kSmallest && !fits(scale))
        scale *= 0.96;
    return scale;
}

void SlipPage::paint(QPainter& painter, PaperSize paper) const
{
    Column column(&painter, areaOf(paper), scaleFor(paper));
    Setting(m_slip, m_pictures, m_theme).set(column);
}

std::vector<QRectF> SlipPage::cueAreas(PaperSize paper) const
{
    const QSizeF page = sizeOf(paper);
    Column measured(nullptr, areaOf(paper), scaleFor(paper));
    Setting setting(m_slip, m_pictures, m_theme);
    setting.set(measured);
    std::vector<QRectF> areas;
    for (const QRectF& r : setting.cues())
        areas.emplace_back(r.x() / page.width(), r.y() / page.height(), r.width() / page.width(),
                           r.height() / page.height());
    return areas;
}

bool SlipPage::printOn(QPagedPaintDevice& device, PaperSize paper) const
{
    device.setPageLayout({QPageSize(paper == PaperSize::A5 ? QPageSize::A5 : QPageSize::A4),
                          QPageLayout::Portrait, QMarginsF(0, 0, 0, 0)});
    QPainter painter;
    if (!painter.begin(&device)) return false;
    painter.scale(device.logicalDpiX() / 72.0, device.logicalDpiY() / 72.0);
    paint(painter, paper);
    return painter.end();
}

Result<Done> SlipPage::writePdf(const std::string& file, PaperSize paper) const
{
    QSaveFile out(q(file));
    const auto broken = [&] {
        return Error{Error::Kind::BadInput, "the page cannot be written: " + out.errorString().toStdString(),
                     file, "Choose another folder, or make room on the disk."};
    };
    if (!out.open(QIODevice::WriteOnly)) return broken();
    QPdfWriter writer(&out);
    writer.setResolution(300);
    writer.setTitle(q(m_slip.student.empty() ? m_slip.form : m_slip.student + ", " + m_slip.form));
    writer.setCreator("Jolly Lantern");
    if (!printOn(writer, paper) || !out.commit()) return broken();
    return Done{};
}

QImage SlipPage::image(PaperSize paper, int width) const
{
    const QSizeF size = sizeOf(paper);
    const double scale = width / size.width();
    QImage out(width, static_cast<int>(std::lround(size.height() * scale)), QImage::Format_RGB32);
    out.fill(Qt::white);
    QPainter painter(&out);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.scale(scale, scale);
    paint(painter, paper);
    return out;
}

} // namespace jl
