#include "draw/slip_export.h"
#include "base/json_file.h"

namespace jl
{

Result<SlipFormat> slipFormatOf(const std::string& file)
{
    const std::string ending = std::filesystem::path(file).extension().string();
    if (ending == ".pdf") return SlipFormat::Pdf;
    if (ending == ".html") return SlipFormat::Html;
    if (ending == ".txt") return SlipFormat::Text;
    return Error{Error::Kind::WrongUse, "a slip cannot be written as \"" + ending + "\"", file,
                 "Let the file's name end with .pdf, .html or .txt."};
}

Result<Done> writeSlip(const SlipPage& page, SlipFormat format, PaperSize paper, const std::string& file)
{
    switch (format) {
    case SlipFormat::Pdf:
        return page.writePdf(file, paper);
    case SlipFormat::Html:
        return writeText(file, page.html());
    case SlipFormat::Text:
        break;
    }
    return writeText(file, slipText(page.slip()));
}

} // namespace jl
