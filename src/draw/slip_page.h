#pragma once
#include "draw/slip_pictures.h"

class QPagedPaintDevice;
class QPainter;

namespace jl
{

enum class PaperSize { A5, A4 };

/// A slip as one page, in the way it is printed, previewed and saved. Text and pictures shrink together until
/// all of it fits. Needs a QGuiApplication for its fonts; no screen.
class SlipPage
{
public:
    SlipPage(Slip slip, std::vector<SlipPictures> pictures, const Theme& theme);

    const Slip& slip() const { return m_slip; }

    /// Text as text, with the fonts embedded. Written beside its place first: no half file stays behind.
    Result<Done> writePdf(const std::string& file, PaperSize paper) const;

    /// Prints it, or whatever else the device does with a page; false where the device fails.
    bool printOn(QPagedPaintDevice& device, PaperSize paper) const;

    /// The page, so many pixels wide.
    QImage image(PaperSize paper, int width) const;

    /// Where the cue of each item stands, in shares of the page's width and height.
    std::vector<QRectF> cueAreas(PaperSize paper) const;

    /// One file with the pictures inside, for a browser on a computer or a phone.
    std::string html() const;

private:
    double scaleFor(PaperSize paper) const;
    void paint(QPainter& painter, PaperSize paper) const;

    Slip m_slip;
    std::vector<SlipPictures> m_pictures; ///< one pair for each item
    const Theme& m_theme;
};

} // namespace jl
