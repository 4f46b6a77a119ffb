#pragma once
#include "draw/slip_pictures.h"

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

    /// The page, so many pixels wide.
    QImage image(PaperSize paper, int width) const;

    /// One file with the pictures inside, for a browser on a computer or a phone.
    std::string html() const;

private:
    void paint(QPainter& painter, PaperSize paper) const;

    Slip m_slip;
    std::vector<SlipPictures> m_pictures; ///< one pair for each item
    const Theme& m_theme;
};

} // namespace jl
