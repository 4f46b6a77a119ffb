#include "app/jobs/posture_sheet.h"
#include "draw/rgb_image.h"
#include "performer/performance.h"
#include "render/scene.h"
#include <QPainter>
#include <algorithm>
#include <future>

namespace jl
{
namespace
{

constexpr int kWidth = 190, kHeight = 230, kGap = 8, kLabel = 40;

struct Cell {
    std::string posture, phase;
    Figure figure;
    double heading = 0;
};

/// The phase by which a posture is known: the last that arrives with the breath going out, else the last.
const PhaseStandard& characteristicPhase(const PostureStandard& posture)
{
    const auto characteristic =
        std::find_if(posture.phases.rbegin(), posture.phases.rend(), [](const PhaseStandard& p) {
            return p.breath == "out" && p.stance != StanceKind::Passing;
        });
    return characteristic == posture.phases.rend() ? posture.phases.back() : *characteristic;
}

Result<std::vector<Cell>> cellsOf(const ShippedData& data, const SheetRequest& request, const BodyShape& body)
{
    std::vector<Cell> cells;
    for (const std::string& form : request.forms) {
        PerformanceRequest ask;
        ask.form = form;
        ask.school = request.school;
        ask.body = body;
        const auto performance = Performance::create(data.standards, ask);
        if (!performance) return performance.error();
        const auto& phases = performance->phases();
        const bool single = data.standards.form(form)->single;
        for (std::size_t i = 0; i < phases.size(); ++i) {
            const PostureStandard& posture = *data.standards.posture(phases[i].posture);
            if ((request.arrivalsOnly && phases[i].phase != characteristicPhase(posture).id) ||
                (single && phases[i].posture != form))
                continue;
            cells.push_back({posture.name, data.standards.phase(posture.id, phases[i].phase).name,
                             performance->figureAt(phases[i].time), phases[i].heading});
        }
    }
    return cells;
}

QImage pictureOf(const Cell& cell, const BodyShape& body, double azimuth)
{
    SceneOptions options;
    options.width = kWidth;
    options.height = kHeight;
    options.noise = 0;
    const Eigen::Vector3d middle(cell.figure.midHip.x(), cell.figure.midHip.y(), 0.52 * body.height);
    options.camera = Camera::looking(middle, azimuth, 5, 4.2);
    options.camera.focal = 1.95 * kHeight;
    options.camera.centre = {0.5 * kWidth, 0.5 * kHeight};
    Scene::Workspace work;
    return imageOf(Scene(body, options).draw(cell.figure, 0, work));
}

} // namespace

Result<QImage> postureSheet(const ShippedData& data, const SheetRequest& request, const Theme& theme)
{
    const BodyShape& body = data.bodies.front();
    const auto cells = cellsOf(data, request, body);
    if (!cells) return cells.error();
    const int count = static_cast<int>(cells->size()), views = static_cast<int>(request.views.size());
    const int columns = std::max(1, std::min(request.columns, count));
    const int cellWidth = views * kWidth + kGap, cellHeight = kHeight + kLabel + kGap;
    QImage sheet(columns * cellWidth + kGap, (count + columns - 1) / columns * cellHeight + kGap,
                 QImage::Format_RGB888);
    sheet.fill(theme.ground);
    QPainter painter(&sheet);
    for (int i = 0; i < count; ++i) {
        const Cell& cell = (*cells)[static_cast<std::size_t>(i)];
        const int x = kGap + i % columns * cellWidth, y = kGap + i / columns * cellHeight;
        std::vector<std::future<QImage>> pictures;
        for (double view : request.views)
            pictures.push_back(std::async(std::launch::async, pictureOf, cell, body, cell.heading + view));
        for (int k = 0; k < views; ++k)
            painter.drawImage(x + k * kWidth, y, pictures[static_cast<std::size_t>(k)].get());
        const int width = views * kWidth;
        const auto label = [&](int below, bool bold, const QColor& colour, const std::string& text) {
            QFont font = painter.font();
            font.setBold(bold);
            painter.setFont(font);
            painter.setPen(colour);
            const QString fitting =
                painter.fontMetrics().elidedText(QString::fromStdString(text), Qt::ElideRight, width);
            painter.drawText(QRect(x, y + kHeight + below, width, 18), Qt::AlignLeft | Qt::AlignVCenter,
                             fitting);
        };
        label(2, true, theme.ink, cell.posture);
        label(20, false, theme.quiet, cell.phase);
    }
    return sheet;
}

} // namespace jl
