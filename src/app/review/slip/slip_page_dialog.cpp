#include "app/review/slip/slip_page_dialog.h"
#include "app/review/share/save_folder.h"
#include "app/review/slip/cue_editor.h"
#include "app/theme/choice_box.h"
#include "app/theme/label.h"
#include <QBuffer>
#include <QClipboard>
#include <QDesktopServices>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QListWidget>
#include <QLocale>
#include <QMouseEvent>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QScrollArea>
#include <QUrl>
#include <QUrlQuery>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace jl
{
namespace
{

constexpr int kPreviewWidth = 505, kKeptWidth = 1240; ///< pixels
constexpr const char* kPaper = "slip.paper";          ///< setting: A5 or A4

QString wayWords(const QString& way)
{
    if (way == "copy") return SlipPageDialog::tr("copied as text");
    if (way == "print") return SlipPageDialog::tr("printed");
    if (way == "mail") return SlipPageDialog::tr("handed to the mail program");
    return SlipPageDialog::tr("saved as %1").arg(way.toUpper());
}

} // namespace

SlipPageDialog::SlipPageDialog(std::shared_ptr<const ReviewScene> scene, Slip slip, PictureFiles files,
                               qint64 review, const Context& context, QWidget* parent)
    : QDialog(parent), m_scene(std::move(scene)), m_slip(std::move(slip)), m_files(std::move(files)),
      m_review(review), m_context(context), m_a4(context.library.setting(kPaper) == "A4")
{
    setWindowTitle(tr("Page for %1").arg(QString::fromStdString(m_slip.student)));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(16, 16, 16, 16);
    layout->setSpacing(16);
    auto* scroll = new QScrollArea(this);
    scroll->setAccessibleName(tr("The page as the student gets it"));
    m_preview = new QLabel(tr("Taking the pictures from the clip…"), scroll);
    m_preview->setObjectName("page.preview");
    m_preview->setAlignment(Qt::AlignCenter);
    m_preview->installEventFilter(this);
    scroll->setWidget(m_preview);
    scroll->setWidgetResizable(true);
    scroll->setMinimumWidth(kPreviewWidth + 24);
    layout->addWidget(scroll, 1);
    layout->addWidget(buildSide());
    resize(850, 756);
    connect(&m_making, &QFutureWatcherBase::finished, this, &SlipPageDialog::makePage);
    m_making.setFuture(QtConcurrent::run([scene = m_scene, slip = m_slip, files = m_files] {
        return std::make_shared<const Result<std::vector<SlipPictures>>>(
            slipPictures(*scene, slip, files, Theme::paper()));
    }));
    fillSent();
}

SlipPageDialog::~SlipPageDialog()
{
    m_making.waitForFinished();
}

QWidget* SlipPageDialog::buildSide()
{
    const Theme& theme = m_context.theme;
    auto* side = new QWidget(this);
    side->setFixedWidth(250);
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    auto* paper = new ChoiceBox(tr("Paper"), 250, side);
    paper->setObjectName("page.paper");
    paper->addItems({tr("A5 page"), tr("A4 page")});
    paper->setCurrentIndex(m_a4);
    connect(paper, &QComboBox::currentIndexChanged, this, [this](int index) {
        m_a4 = index == 1;
        m_context.library.setSetting(kPaper, m_a4 ? "A4" : "A5");
        showPage();
    });
    layout->addWidget(paper);
    const auto button = [&](const char* name, const QString& text, auto act) {
        auto* b = new QPushButton(text, side);
        b->setObjectName(name);
        connect(b, &QPushButton::clicked, this, act);
        layout->addWidget(b);
        return b;
    };
    auto* pdf = button("page.pdf", tr("Save as &PDF…"), [this] { askAndSave(".pdf", tr("Page (*.pdf)")); });
    pdf->setProperty("accent", true);
    pdf->setDefault(true);
    auto* html = button("page.html", tr("Save as &web page…"),
                        [this] { askAndSave(".html", tr("Web page (*.html)")); });
    auto* copy = button("page.copy", tr("&Copy as text"), [this] { copyText(); });
    auto* paperButton = button("page.print", tr("P&rint…"), [this] { print(); });
    auto* mailButton = button("page.mail", tr("Hand to the &mail program"), [this] { mail(); });
    m_needsPage = {pdf, html, copy, paperButton, mailButton};
    for (QPushButton* b : m_needsPage)
        b->setEnabled(false);
    m_folderButton = button("page.folder", tr("Show the &folder"), [this] {
        if (!QDesktopServices::openUrl(QUrl::fromLocalFile(m_savedIn)))
            say(tr("No program of this desktop opens %1.").arg(m_savedIn), true);
    });
    m_folderButton->setEnabled(false);
    m_said = paragraph(tr("Click on a cue to put it in your words. Nothing is sent by itself."), 0.95,
                       QFont::Normal, theme.quiet, side);
    m_said->setObjectName("page.said");
    layout->addWidget(m_said);
    layout->addSpacing(10);
    layout->addWidget(label(tr("Sent before"), 1.0, QFont::DemiBold, theme.ink, side));
    m_sent = new QListWidget(side);
    m_sent->setObjectName("page.sent");
    m_sent->setAccessibleName(tr("Slips of this review that were sent, as they were sent"));
    m_sent->setWordWrap(true);
    connect(m_sent, &QListWidget::currentRowChanged, this, &SlipPageDialog::showSent);
    layout->addWidget(m_sent, 1);
    button("page.close", tr("Close"), [this] { accept(); });
    return side;
}

PaperSize SlipPageDialog::paper() const
{
    return m_a4 ? PaperSize::A4 : PaperSize::A5;
}

void SlipPageDialog::makePage()
{
    const auto made = m_making.result();
    if (!*made) {
        m_preview->setText(QString::fromStdString(made->error().message()));
        return;
    }
    m_page.emplace(m_slip, **made, Theme::paper());
    for (QPushButton* b : m_needsPage)
        b->setEnabled(true);
    showPage();
}

void SlipPageDialog::showPage()
{
    if (!m_page) return;
    m_sent->setCurrentRow(0);
    QImage page = m_page->image(paper(), static_cast<int>(kPreviewWidth * devicePixelRatioF()));
    page.setDevicePixelRatio(devicePixelRatioF());
    m_preview->setPixmap(QPixmap::fromImage(page));
}

void SlipPageDialog::fillSent()
{
    const QSignalBlocker quiet(m_sent);
    m_sent->clear();
    m_sent->addItem(tr("the page as it is now"));
    for (const SentSlip& s : m_context.library.sentSlips(m_review))
        m_sent->addItem(QLocale().toString(s.sent.toLocalTime(), QLocale::ShortFormat) + ", " +
                        wayWords(s.way));
    m_sent->setCurrentRow(0);
}

void SlipPageDialog::showSent(int row)
{
    if (row == 0) return showPage();
    const auto sent = m_context.library.sentSlips(m_review);
    if (row < 0 || row > static_cast<int>(sent.size())) return;
    const QImage page = QImage::fromData(sent[static_cast<std::size_t>(row) - 1].page);
    m_preview->setPixmap(QPixmap::fromImage(page.scaledToWidth(kPreviewWidth, Qt::SmoothTransformation)));
}

void SlipPageDialog::askAndSave(const QString& ending, const QString& kind)
{
    const QString folder = m_context.library.setting(kStudentFolder);
    const QString proposed = QDir(folder.isEmpty() ? QDir::homePath() : folder)
                                 .filePath(QString::fromStdString(slipFileName(m_slip)) + ending);
    QString file = QFileDialog::getSaveFileName(this, tr("Save the page"), proposed, kind);
    if (file.isEmpty()) return;
    if (!file.endsWith(ending)) file += ending;
    saveTo(file);
}

void SlipPageDialog::saveTo(const QString& file)
{
    if (!m_page) return;
    const auto format = slipFormatOf(file.toStdString());
    const auto saved =
        format ? writeSlip(*m_page, *format, paper(), file.toStdString()) : Result<Done>(format.error());
    if (!saved) return say(QString::fromStdString(saved.error().message()), true);
    m_savedIn = QFileInfo(file).absolutePath();
    m_folderButton->setEnabled(true);
    m_context.library.setSetting(kStudentFolder, m_savedIn);
    say(tr("Saved as %1.").arg(QFileInfo(file).fileName()));
    keep(QFileInfo(file).suffix());
}

void SlipPageDialog::copyText()
{
    QGuiApplication::clipboard()->setText(QString::fromStdString(slipText(m_slip)));
    say(tr("Copied. Paste it into a message."));
    keep("copy");
}

void SlipPageDialog::print()
{
    QPrinter printer;
    printer.setDocName(QString::fromStdString(slipFileName(m_slip)));
    printer.setPageSize(QPageSize(m_a4 ? QPageSize::A4 : QPageSize::A5));
    if (QPrintDialog(&printer, this).exec() != QDialog::Accepted) return;
    if (!m_page->printOn(printer, paper()))
        return say(tr("The page was not printed: the printer cannot be used. Save it as PDF instead."), true);
    say(tr("Printed."));
    keep("print");
}

/// As text: mail programs take no page from others in one way that all know.
void SlipPageDialog::mail()
{
    QUrl url("mailto:");
    QUrlQuery query;
    query.addQueryItem("subject", QString::fromStdString(slipFileName(m_slip)));
    query.addQueryItem("body", QString::fromStdString(slipText(m_slip)));
    url.setQuery(query);
    if (!QDesktopServices::openUrl(url))
        return say(tr("This desktop has no mail program. Copy the text instead."), true);
    say(tr("The text is in your mail program. Add the page as PDF if you like."));
    keep("mail");
}

bool SlipPageDialog::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_preview && event->type() == QEvent::MouseButtonRelease && m_page)
        editAt(static_cast<QMouseEvent*>(event)->position());
    return QDialog::eventFilter(watched, event);
}

/// Opens an editor over the cue at a place of the preview, if there is one.
void SlipPageDialog::editAt(const QPointF& place)
{
    if (m_editor || m_sent->currentRow() > 0) return;
    const QSizeF page = m_preview->pixmap().deviceIndependentSize();
    const QPointF corner((m_preview->width() - page.width()) / 2, (m_preview->height() - page.height()) / 2);
    const std::vector<QRectF> areas = m_page->cueAreas(paper());
    for (std::size_t i = 0; i < areas.size(); ++i) {
        const QRectF area(areas[i].x() * page.width() + corner.x(), areas[i].y() * page.height() + corner.y(),
                          areas[i].width() * page.width(), areas[i].height() * page.height());
        if (!area.adjusted(-4, -4, 4, 4).contains(place)) continue;
        m_editor = new CueEditor(QString::fromStdString(m_slip.items[i].cue), m_preview);
        m_editor->setAutoFillBackground(true);
        m_editor->setGeometry(QRectF(area.topLeft(), QSizeF(std::max(280.0, area.width()), 116)).toRect());
        connect(m_editor, &CueEditor::kept, this, [this, i](const QString& cue) { keepCue(i, cue); });
        m_editor->show();
    }
}

void SlipPageDialog::keepCue(std::size_t item, const QString& cue)
{
    m_editor->deleteLater();
    SlipItem& changed = m_slip.items[item];
    for (const auto* corrections : {&m_scene->review.teach, &m_scene->review.further})
        for (const Correction& c : *corrections)
            if (c.fault == changed.fault) changed.cue = cue.isEmpty() ? c.cue : cue.toStdString();
    emit reworded(QString::fromStdString(changed.fault), cue);
    m_page.emplace(m_slip, **m_making.result(), Theme::paper());
    showPage();
}

void SlipPageDialog::keep(const QString& way)
{
    SentSlip sent{QDateTime::currentDateTimeUtc(), way, QString::fromStdString(slipText(m_slip)), {}};
    QBuffer buffer(&sent.page);
    buffer.open(QIODevice::WriteOnly);
    constexpr int quality = 85;
    m_page->image(paper(), kKeptWidth).save(&buffer, "JPEG", quality);
    if (const auto kept = m_context.library.keepSent(m_review, sent); !kept)
        say(QString::fromStdString(kept.error().message()), true);
    fillSent();
}

void SlipPageDialog::say(const QString& words, bool wrong)
{
    m_said->setText(words);
    QPalette palette = m_said->palette();
    palette.setColor(QPalette::WindowText, wrong ? m_context.theme.lantern : m_context.theme.pine);
    m_said->setPalette(palette);
}

} // namespace jl
