#include "draw/slip_page.h"
#include <QBuffer>

namespace jl
{
namespace
{

QString safe(std::string_view words)
{
    return QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size())).toHtmlEscaped();
}

QString picture(const QImage& image, const QString& caption, const QString& kind)
{
    if (image.isNull()) return {};
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    constexpr int quality = 82;
    image.save(&buffer, "JPEG", quality);
    return QString("<figure class=\"%1\"><img alt=\"%2\" "
                   "src=\"data:image/jpeg;base64,%3\"><figcaption>%2</figcaption>"
                   "</figure>")
        .arg(kind, caption, QString::fromLatin1(bytes.toBase64()));
}

QString paragraph(const QString& kind, const QString& words)
{
    return words.isEmpty() ? QString() : QString("<p class=\"%1\">%2</p>\n").arg(kind, words);
}

QString list(const QString& kind, const QString& heading, const std::vector<std::string>& lines)
{
    if (lines.empty()) return {};
    QString html = QString("<section class=\"%1\"><h2>%2</h2><ul>\n").arg(kind, heading);
    for (const std::string& line : lines)
        html += "<li>" + safe(line) + "</li>\n";
    return html + "</ul></section>\n";
}

QString style(const Theme& t)
{
    return QString(R"(
body { font-family: Lato, "Noto Sans", sans-serif; color: %1; background: %2; margin: 0 auto; padding: 1.2rem; max-width: 46rem; line-height: 1.4; }
h1 { margin: 0; font-size: 1.7rem; } .when, .seen, .purpose { color: %3; } .when { margin-top: 0; }
h2 { font-size: 1rem; margin: 0 0 .3rem; } ul { margin: .2rem 0 1rem; padding-left: 1.2rem; }
.better h2 { color: %4; } .practice h2 { color: %5; } .cautions h2 { color: %6; }
article { border-top: 1px solid %7; padding: 1rem 0; display: flex; gap: 1.2rem; flex-wrap: wrap; }
article h2 { font-size: 1.25rem; } article p { margin: .35rem 0; }
.pair { display: flex; gap: .4rem; flex: 0 1 18rem; } figure { margin: 0; } img { width: 100%; border-radius: 6px; display: block; }
.words { flex: 1 1 18rem; } .cue { color: %8; font-weight: 600; font-size: 1.1rem; } .drill { color: %5; }
figcaption { font-size: .8rem; font-weight: 600; } .you figcaption { color: %8; } .aim figcaption { color: %4; }
)")
        .arg(t.ink.name(), t.raised.name(), t.quiet.name(), t.pine.name(), t.indigo.name(), t.ochre.name(),
             t.line.name(), t.lantern.name());
}

QString article(std::size_t number, const SlipItem& item, const SlipPictures* pictures)
{
    QString html = "<article>\n";
    if (pictures && !pictures->student.isNull())
        html += "<div class=\"pair\">" + picture(pictures->student, safe(kSlipWords.student), "you") +
                picture(pictures->reference, safe(kSlipWords.aim), "aim") + "</div>\n";
    html += QString("<div class=\"words\"><h2>%1. %2</h2>\n").arg(number).arg(safe(item.title));
    html += paragraph("cue", safe(item.cue)) + paragraph("reason", safe(item.reason));
    html += paragraph("drill", safe(drillLine(item))) + paragraph("seen", safe(oftenLine(item))) +
            paragraph("purpose", safe(purposeLine(item)));
    return html + "</div></article>\n";
}

} // namespace

std::string SlipPage::html() const
{
    const QString who = safe(m_slip.student.empty() ? m_slip.form : m_slip.student);
    QString html = "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">"
                   "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>" +
                   who + "</title>\n<style>" + style(m_theme) + "</style></head>\n<body>\n<h1>" + who +
                   "</h1>\n";
    html += paragraph("when", safe(m_slip.form) + " \u00b7 " + safe(dayWords(m_slip.day)));
    html += list("better", safe(kSlipWords.better), m_slip.better);
    if (m_slip.items.empty()) html += paragraph("cue", safe(kSlipWords.nothing));
    for (std::size_t i = 0; i < m_slip.items.size(); ++i)
        html += article(i + 1, m_slip.items[i], i < m_pictures.size() ? &m_pictures[i] : nullptr);
    html += list("practice", safe(kSlipWords.practice), m_slip.practice);
    html += list("cautions", safe(kSlipWords.cautions), m_slip.cautions);
    return (html + "</body></html>\n").toStdString();
}

} // namespace jl
