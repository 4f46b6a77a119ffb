#include "draw/fault_strip.h"
#include "draw/body_shot.h"
#include "draw/fonts.h"
#include "draw/rgb_image.h"
#include "render/simulated_clip.h"
#include <QPainter>
#include <algorithm>
#include <array>

namespace jl
{
namespace
{

constexpr int kWidth = 300, kHeight = 400, kWords = 44, kGap = 6; ///< of a picture and its caption, pixels
constexpr Share kOnTheWay = 0.6;                                  ///< of the move into the phase

Error cannotShow(const SlipItem& item)
{
    return {Error::Kind::NothingFound, "the built-in performer cannot show this correction", item.title,
            "Show it yourself."};
}

Result<Performance> performed(const ShippedData& data, const ReviewScene& scene, const SlipItem& item,
                              bool wrong)
{
    PerformanceRequest request;
    request.form = scene.review.form;
    request.school = scene.review.school;
    request.lead = scene.review.side;
    request.body = data.bodies.front();
    if (wrong) {
        const auto& kinds = faultKinds();
        const auto kind =
            std::find_if(kinds.begin(), kinds.end(), [&](const FaultKind& k) { return k.id == item.fault; });
        if (kind == kinds.end()) return cannotShow(item);
        request.faults.push_back({item.fault, kind->usual, item.postureId, item.phaseId});
    }
    return Performance::create(data.standards, request);
}

/// The two moments of a performance that are shown, s; none where it does not have the phase.
std::optional<std::array<Seconds, 2>> momentsOf(const Performance& performance, const SlipItem& item)
{
    for (const PerformedPhase& p : performance.phases())
        if (p.posture == item.postureId && p.phase == item.phaseId)
            return std::array{p.begin + kOnTheWay * (p.time - p.begin), p.time};
    return std::nullopt;
}

BodyFrame seenBy(const Camera& camera, const Figure& figure)
{
    BodyFrame body;
    body.seen = true;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        body.point[k] = camera.project(figure.landmark[k]);
        body.visibility[k] = 1;
    }
    return body;
}

/// Performances at their moments, drawn by one scene.
class StripPainter
{
public:
    StripPainter(const Performance& right, double azimuth, const SlipItem& item, const Theme& theme)
        : m_options(optionsFor(right, azimuth)), m_scene(right.body(), m_options), m_item(item),
          m_theme(theme)
    {
    }

    QImage picture(const Figure& figure, const QColor& colour)
    {
        BodyShot shot;
        shot.body = seenBy(m_options.camera, figure);
        shot.isAboutMeasure = m_item.measure.has_value();
        if (m_item.measure) shot.construction.measure = *m_item.measure;
        shot.construction.lead = m_item.lead;
        shot.construction.colour = colour;
        return shotPicture(shot, imageOf(m_scene.draw(figure, 0, m_work)), m_options.width, {kWidth, kHeight},
                           m_theme);
    }

private:
    static SceneOptions optionsFor(const Performance& performance, double azimuth)
    {
        ClipRequest clip;
        clip.camera.azimuth = azimuth;
        clip.width = 1600;
        clip.height = 900;
        SceneOptions options;
        options.width = clip.width;
        options.height = clip.height;
        options.noise = 0;
        options.camera = cameraFor(performance, clip);
        return options;
    }

    SceneOptions m_options;
    Scene m_scene;
    Scene::Workspace m_work;
    const SlipItem& m_item;
    const Theme& m_theme;
};

} // namespace

Result<QImage> faultStrip(const ShippedData& data, const ReviewScene& scene, const SlipItem& item,
                          const Theme& theme)
{
    const auto wrong = performed(data, scene, item, true), right = performed(data, scene, item, false);
    if (!wrong) return wrong.error();
    if (!right) return right.error();
    const auto wrongAt = momentsOf(*wrong, item), rightAt = momentsOf(*right, item);
    if (!wrongAt || !rightAt || wrong->faults().empty()) return cannotShow(item);
    const ClipReading& student = scene.student;
    StripPainter painter(*right, student.camera.azimuthFrom(student.model.at(0.5 * student.model.duration())),
                         item, theme);
    QImage out(4 * kWidth + 3 * kGap, kHeight + kWords, QImage::Format_RGB32);
    out.fill(theme.ground);
    QPainter p(&out);
    for (std::size_t i = 0; i < 4; ++i) {
        const bool isWrong = i < 2;
        const Performance& performance = isWrong ? *wrong : *right;
        const Seconds time = isWrong ? (*wrongAt)[i] : (*rightAt)[i - 2];
        const QColor& colour = isWrong ? theme.lantern : theme.pine;
        const int left = static_cast<int>(i) * (kWidth + kGap);
        p.drawImage(left, 0, painter.picture(performance.figureAt(time), colour));
        if (i % 2 == 1) continue;
        p.setFont(face(24, QFont::Bold));
        p.setPen(colour);
        const std::string_view words = isWrong ? kSlipWords.notThis : kSlipWords.likeThis;
        p.drawText(QRect(left + 12, kHeight, 2 * kWidth, kWords), Qt::AlignVCenter,
                   QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size())));
    }
    return out;
}

} // namespace jl
