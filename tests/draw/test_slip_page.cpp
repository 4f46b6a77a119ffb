#include "base/day.h"
#include "draw/fonts.h"
#include "draw/slip_export.h"
#include "support/clips.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <QGuiApplication>
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

namespace
{

Slip madeUp(int corrections)
{
    Slip slip{
        "Ana <Brook>",      "Grasp the sparrow's tail", *dayFrom("2026-03-14"), {"Level hips (gone)"}, {}, {},
        {"Stop with pain."}};
    for (int i = 0; i < corrections; ++i)
        slip.items.push_back({"fault", "Walk on two rails", "Let the heel land on its own rail.",
                              "Two rails keep you steady.", "Lay two strips of tape.", "in 3 of 5 places",
                              "Push, arriving", "To move what stands before you.", 3,
                              Measure::KneeLeadPastToe, Side::Right});
    return slip;
}

std::vector<SlipPictures> plainPictures(int corrections)
{
    QImage red(kSlipPictureWidth, kSlipPictureHeight, QImage::Format_RGB32), green = red;
    red.fill(Qt::red);
    green.fill(Qt::green);
    return std::vector<SlipPictures>(static_cast<std::size_t>(corrections), {red, green});
}

QByteArray contents(const QString& file)
{
    QFile f(file);
    if (!f.open(QIODevice::ReadOnly)) qFatal("%s is not there", qPrintable(file));
    return f.readAll();
}

/// The lowest row that is not paper.
int lastRow(const QImage& page)
{
    for (int y = page.height() - 1; y >= 0; --y)
        for (int x = 0; x < page.width(); ++x)
            if (page.pixelColor(x, y) != QColor(Qt::white)) return y;
    return -1;
}

int countOf(const QImage& image, const QColor& colour)
{
    int count = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            count += image.pixelColor(x, y) == colour;
    return count;
}

} // namespace

/// The page for the student.
class TestSlipPage : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase() { QVERIFY(loadFonts()); }

    void thePdfIsOnePageOfTextWithItsFonts_data()
    {
        QTest::addColumn<int>("corrections");
        QTest::addColumn<bool>("a4");
        for (const int n : {0, 1, 3, 6})
            for (const bool a4 : {false, true})
                QTest::addRow("%d on %s", n, a4 ? "A4" : "A5") << n << a4;
    }

    void thePdfIsOnePageOfTextWithItsFonts()
    {
        QFETCH(int, corrections);
        QFETCH(bool, a4);
        const QString file = m_dir.filePath("slip.pdf");
        const SlipPage page(madeUp(corrections), plainPictures(corrections), Theme::paper());
        const PaperSize paper = a4 ? PaperSize::A4 : PaperSize::A5;
        QVERIFY(writeSlip(page, SlipFormat::Pdf, paper, file.toStdString()));
        const QByteArray pdf = contents(file);
        QVERIFY(pdf.startsWith("%PDF-"));
        QCOMPARE(pdf.count("/Type /Page\n"), 1);
        QVERIFY(pdf.contains("Lato") && pdf.contains("/FontFile"));
        QVERIFY(pdf.contains(a4 ? "/MediaBox [0 0 595.000000 842.000000]"
                                : "/MediaBox [0 0 420.000000 595.000000]"));
        // Everything fits, with a margin.
        const QImage drawn = page.image(paper, 840);
        QVERIFY(lastRow(drawn) > 0.1 * drawn.height() && lastRow(drawn) < 0.955 * drawn.height());
        QVERIFY(corrections == 0 || countOf(drawn, Qt::red) > 500);
        QVERIFY(corrections == 0 || std::abs(countOf(drawn, Qt::red) - countOf(drawn, Qt::green)) < 1500);
    }

    /// Set-up installs a font for it: without one the name would be a row of boxes in the shipped typeface.
    void aChineseNameIsSetInAFontThatHasIt()
    {
        Slip slip = madeUp(1);
        slip.student = "Ana \u738b\u5c0f\u660e";
        const QString file = m_dir.filePath("name.pdf");
        const SlipPage page(slip, plainPictures(1), Theme::paper());
        QVERIFY(writeSlip(page, SlipFormat::Pdf, PaperSize::A5, file.toStdString()));
        const QByteArray pdf = contents(file);
        QVERIFY(pdf.count("/BaseFont /") > pdf.count("/BaseFont /Lato"));
    }

    void theWebPageIsOneFileAndSafe()
    {
        const SlipPage page(madeUp(2), plainPictures(2), Theme::paper());
        const QString html = QString::fromStdString(page.html());
        QVERIFY(html.contains("Ana &lt;Brook&gt;") && !html.contains("<Brook>"));
        QCOMPARE(html.count("src=\"data:image/jpeg;base64,"), 4);
        QVERIFY(!html.contains("http"));
        QCOMPARE(html.count("<article>"), 2);
    }

    void whatCannotBeWrittenIsSaid()
    {
        const SlipPage page(madeUp(1), plainPictures(1), Theme::paper());
        for (const SlipFormat format : {SlipFormat::Pdf, SlipFormat::Html, SlipFormat::Text}) {
            const auto written =
                writeSlip(page, format, PaperSize::A5, m_dir.filePath("none/slip").toStdString());
            QVERIFY(!written);
            QVERIFY(written.error().message().find("none/slip") != std::string::npos);
        }
        QVERIFY(!slipFormatOf("slip.docx"));
        QCOMPARE(*slipFormatOf("a.b.html"), SlipFormat::Html);
    }

    void bodiesAreDrawnWhereThereIsNoVideo()
    {
        const Performance p = perform("teacher", 41, Side::Right, {{"knee-past-toe", 0.08, ""}});
        ReviewRequest request;
        request.student.track = exactTrack(p, from(90));
        request.student.profile.height = p.body().height;
        auto finished = makeReview(shipped(), request);
        QVERIFY(finished);
        const auto scene = sceneOf(std::move(*finished));
        const Slip slip = slipOf(scene->review, shipped().rules, nullptr,
                                 {"Ana", "Form", {}, asProposed(scene->review), {}});
        QVERIFY(!slip.items.empty());
        const auto pictures = slipPictures(*scene, slip, {}, Theme::paper());
        QVERIFY(pictures);
        QCOMPARE(pictures->size(), slip.items.size());
        for (const SlipPictures& pair : *pictures) {
            QCOMPARE(pair.student.size(), QSize(kSlipPictureWidth, kSlipPictureHeight));
            QCOMPARE(pair.reference.size(), pair.student.size());
            // A body takes up a good part, and does not touch the edges above and below.
            const int paper = countOf(pair.student, Theme::paper().raised);
            QVERIFY(paper < 0.97 * pair.student.width() * pair.student.height());
            for (int x = 0; x < pair.student.width(); ++x)
                QVERIFY(pair.student.pixelColor(x, 2) == Theme::paper().raised);
        }
        const auto missing =
            slipPictures(*scene, slip, {m_dir.filePath("gone.mp4").toStdString(), {}}, Theme::paper());
        QVERIFY(!missing);
        QVERIFY(missing.error().message().find("gone.mp4") != std::string::npos);
    }

private:
    QTemporaryDir m_dir;
};

QTEST_MAIN(TestSlipPage)
#include "test_slip_page.moc"
