#include "render/simulated_clip.h"
#include "base/angles.h"
#include "render/camera_motion.h"
#include "render/hall_sound.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <future>
#include <optional>
#include <random>

namespace jl
{

Result<CameraPlace> cameraPlace(const std::string& view, std::uint32_t seed)
{
    CameraPlace place;
    if (view == "front")
        place.azimuth = 0;
    else if (view == "corner")
        place.azimuth = 45;
    else if (view == "side")
        place.azimuth = 90;
    else if (view == "behind")
        place.azimuth = 180;
    else {
        char rest = 0;
        const int read = std::sscanf(view.c_str(), "%lf,%lf,%lf%c", &place.azimuth, &place.elevation,
                                     &place.distance, &rest);
        if (read != 3 || place.distance < 1 || place.distance > 20 || std::abs(place.elevation) > 80)
            return Error{Error::Kind::WrongUse, "there is no camera \"" + view + "\"", "--camera",
                         "Use front, corner, side, behind, or azimuth, elevation and distance such as "
                         "90,4,4.2 (1 to 20 m, elevation within 80 degrees)."};
        return place;
    }
    place.fit = true;
    if (seed != 0) {
        std::mt19937 random(seed * 7919u + 17u);
        std::normal_distribution<double> normal;
        const auto some = [&](double sd) { return sd * clampTo(normal(random), -2, 2); };
        place.azimuth += some(2.5);
        place.elevation += some(1);
        place.distance += some(0.15);
        place.roll += some(0.4);
    }
    return place;
}

namespace
{

constexpr double kFarthest = 9; ///< m, further off a hall does not let a camera go

bool staysInPicture(const Performance& performance, const Camera& camera, const ClipRequest& request)
{
    const double margin = 0.04 * std::min(request.width, request.height);
    for (double t = 0; t < performance.duration(); t += 0.5) {
        for (const Eigen::Vector3d& point : performance.figureAt(t).landmark) {
            const Eigen::Vector2d p = camera.project(point);
            if (p.x() < margin || p.y() < margin || p.x() > request.width - margin ||
                p.y() > request.height - margin)
                return false;
        }
    }
    return true;
}

Track emptyTrack(const ClipRequest& request)
{
    Track track;
    track.width = request.width;
    track.height = request.height;
    track.framesPerSecond = request.framesPerSecond;
    track.model = "exact";
    return track;
}

BodyFrame exactFrame(const Figure& figure, const Camera& camera, double time)
{
    BodyFrame f;
    f.time = time;
    f.seen = true;
    f.score = 1;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        f.point[k] = camera.project(figure.landmark[k]);
        f.metric[k] = (camera.rotation * (figure.landmark[k] - figure.midHip)).cast<float>();
        f.visibility[k] = 1;
    }
    return f;
}

} // namespace

CameraPlace fittedPlace(const Performance& performance, const ClipRequest& request)
{
    ClipRequest further = request;
    further.camera.fit = false;
    while (request.camera.fit && further.camera.distance < kFarthest &&
           !staysInPicture(performance, cameraFor(performance, further), further))
        further.camera.distance += 0.3;
    return further.camera;
}

Camera cameraFor(const Performance& performance, const ClipRequest& request)
{
    if (request.camera.fit) {
        ClipRequest fitted = request;
        fitted.camera = fittedPlace(performance, request);
        return cameraFor(performance, fitted);
    }
    Eigen::Vector2d low(1e9, 1e9), high(-1e9, -1e9);
    for (const PerformedPhase& p : performance.phases()) {
        const Eigen::Vector2d hip = performance.figureAt(p.time).midHip.head<2>();
        low = low.cwiseMin(hip);
        high = high.cwiseMax(hip);
    }
    const Eigen::Vector2d middle = 0.5 * (low + high);
    const CameraPlace& c = request.camera;
    const auto cameraAt = [&](double distance) {
        Camera camera = Camera::looking({middle.x(), middle.y(), 0.5 * performance.body().height}, c.azimuth,
                                        c.elevation, distance, c.roll);
        camera.focal = kUsualFocalShare * c.lens * std::max(request.width, request.height);
        camera.centre = {0.5 * request.width, 0.5 * request.height};
        const double pan = std::atan(c.aside * request.width / camera.focal);
        camera.rotation = camera.rotation * Eigen::AngleAxisd(-pan, Eigen::Vector3d::UnitZ());
        return camera;
    };
    return cameraAt(c.distance);
}

double bodyPixels(const Performance& performance, const ClipRequest& request)
{
    const Camera camera = cameraFor(performance, request);
    const double distance = camera.toCamera(performance.figureAt(0).midHip).z();
    return performance.body().height * camera.focal / distance;
}

std::vector<double> clipTimes(const Performance& p, const ClipRequest& r)
{
    return frameTimes(p.duration(), r.framesPerSecond, r.uneven, r.seed);
}

namespace
{

constexpr int kSoundRate = 44100;
constexpr int kBlurPictures = 5; ///< that are averaged while the shutter is open

/// Films moments with a camera that may shake and whose shutter takes its time.
class Filming
{
public:
    Filming(const Performance& performance, const ClipRequest& request, const SceneOptions& options)
        : m_performance(performance), m_request(request),
          m_margin(request.shake > 0 ? static_cast<int>(std::ceil(request.shake)) + 1 : 0),
          m_scene(performance.body(), widened(options, m_margin)),
          m_company(companyIn(request, options.camera))
    {
        if (request.company.passer) m_passer = SkinMesh::build(request.company.passer->body());
    }

    RgbImage at(double time, std::uint32_t frame, Scene::Workspace& work) const
    {
        RgbImage picture = moment(time, frame, work);
        if (m_request.shutter > 0) {
            std::vector<RgbImage> gathered{std::move(picture)};
            const double open = m_request.shutter / m_request.framesPerSecond;
            for (int i = 1; i < kBlurPictures; ++i)
                gathered.push_back(
                    moment(std::min(time + open * i / kBlurPictures, m_performance.duration()), frame, work));
            picture = meanOf(gathered);
        }
        return m_request.quarterTurns == 0 ? std::move(picture) : stored(picture);
    }

private:
    /// Where the passer's path and the mirror lie.
    struct Places {
        Eigen::Vector3d middle, across; ///< of the path, and its unit vector; on the floor
        double reach = 0;               ///< m on either side of the middle
        Eigen::Affine3f mirror = Eigen::Affine3f::Identity();
    };

    static Places companyIn(const ClipRequest& request, const Camera& camera)
    {
        const Eigen::Vector3d into =
            Eigen::Vector3d(camera.rotation.row(2)).cwiseProduct(Eigen::Vector3d(1, 1, 0));
        const double away = request.camera.distance;
        Places places;
        places.across = camera.rotation.row(0).transpose();
        places.across.z() = 0;
        places.across.normalize();
        const Eigen::Vector3d forward = into.normalized();
        places.middle = camera.position + forward * away * request.company.passesAt;
        places.middle.z() = 0;
        places.reach = 0.75 * request.width / camera.focal * away * request.company.passesAt;
        // x -> x - 2 (n . x - d) n for the plane of points n . x = d
        const double d = forward.dot(camera.position) + away + request.company.mirror;
        places.mirror.linear() =
            (Eigen::Matrix3d::Identity() - 2 * forward * forward.transpose()).cast<float>();
        places.mirror.translation() = (2 * d * forward).cast<float>();
        return places;
    }

    std::vector<Extra> others(const Figure& figure, double time) const
    {
        std::vector<Extra> all;
        const Company& company = m_request.company;
        if (company.mirror > 0) all.push_back({&m_scene.mesh(), figure, m_company.mirror});
        if (m_passer && time >= company.begin && time <= company.end) {
            const double share = (time - company.begin) / (company.end - company.begin);
            Extra passer{
                &*m_passer, company.passer->figureAt(std::fmod(time, company.passer->duration())), {}};
            const Eigen::Vector3d to =
                m_company.middle + m_company.across * m_company.reach * (2 * share - 1);
            const double turn = std::atan2(-m_company.across.x(), m_company.across.y());
            const Eigen::Affine3d place =
                Eigen::Translation3d(to) * Eigen::AngleAxisd(turn, Eigen::Vector3d::UnitZ()) *
                Eigen::Translation3d(-passer.figure.midHip.x(), -passer.figure.midHip.y(), 0);
            passer.place = place.cast<float>();
            all.push_back(std::move(passer));
        }
        return all;
    }

    static SceneOptions widened(SceneOptions o, int margin)
    {
        o.width += 2 * margin;
        o.height += 2 * margin;
        o.camera.centre += Eigen::Vector2d::Constant(margin);
        return o;
    }

    RgbImage moment(double time, std::uint32_t frame, Scene::Workspace& work) const
    {
        const Figure figure = m_performance.figureAt(time);
        RgbImage picture = m_scene.draw(figure, frame, work, others(figure, time));
        if (m_margin == 0) return picture;
        return croppedAt(picture, m_margin, shakeAt(time, m_request.shake, m_request.seed));
    }

    /// The upright picture as it lies in the file: the stated quarter turns make it upright again.
    RgbImage stored(const RgbImage& upright) const
    {
        const int turns = m_request.quarterTurns;
        const bool lying = turns % 2 == 1;
        RgbImage out(lying ? upright.height : upright.width, lying ? upright.width : upright.height);
        for (int y = 0; y < out.height; ++y)
            for (int x = 0; x < out.width; ++x) {
                const int fromX = turns == 1 ? upright.width - 1 - y : turns == 2 ? upright.width - 1 - x : y;
                const int fromY = turns == 1   ? x
                                  : turns == 2 ? upright.height - 1 - y
                                               : upright.height - 1 - x;
                std::copy_n(upright.row(fromY) + 3 * fromX, 3, out.row(y) + 3 * x);
            }
        return out;
    }

    const Performance& m_performance;
    const ClipRequest& m_request;
    int m_margin;
    Scene m_scene;
    std::optional<SkinMesh> m_passer;
    Places m_company;
};

} // namespace

namespace
{

/// The hall's sound at the camera of a request that has one.
std::vector<float> soundAt(const Camera& camera, const Performance& performance, const ClipRequest& request,
                           int rate)
{
    const auto place = static_cast<std::uint32_t>(std::lround(request.camera.azimuth) + 720);
    return hallSound(performance, {camera.position, request.seed * 1009 + place}, rate);
}

} // namespace

Result<Done> renderClip(const Performance& performance, const ClipRequest& request, const std::string& file)
{
    SceneOptions options;
    options.width = request.width;
    options.height = request.height;
    options.camera = cameraFor(performance, request);
    ClipRequest fitted = request;
    fitted.camera = fittedPlace(performance, request);
    options.noise = request.noise;
    options.seed = request.seed + 1;
    const auto hall =
        std::find_if(halls().begin(), halls().end(), [&](const Hall& h) { return h.id == request.hall; });
    if (hall == halls().end()) {
        std::vector<std::string> known;
        for (const Hall& h : halls())
            known.push_back(h.id);
        return unknownId("hall", request.hall, known);
    }
    options.hall = *hall;

    EncoderOptions coding;
    coding.width = request.quarterTurns % 2 ? request.height : request.width;
    coding.height = request.quarterTurns % 2 ? request.width : request.height;
    coding.quarterTurns = request.quarterTurns;
    coding.framesPerSecond = request.framesPerSecond;
    coding.quality = request.quality;
    if (request.quicklySought) {
        coding.speed = kQuicklySought.speed;
        coding.keyFrameEvery = kQuicklySought.keyFrameEvery;
    }
    if (request.sound) coding.soundRate = kSoundRate;
    auto encoder = Encoder::create(file, coding);
    if (!encoder) return encoder.error();
    if (request.sound) {
        const auto added = encoder->addSound(soundAt(options.camera, performance, request, kSoundRate));
        if (!added) return added.error();
    }

    const Filming filming(performance, fitted, options);
    const std::vector<double> times = clipTimes(performance, request);
    const std::size_t frames = times.size();
    constexpr std::size_t threads = 2;
    std::vector<Scene::Workspace> work(threads);
    const auto draw = [&](std::size_t i) {
        return filming.at(times[i], static_cast<std::uint32_t>(i), work[i % threads]);
    };
    for (std::size_t i = 0; i < frames; i += threads) {
        std::vector<std::future<RgbImage>> pictures;
        for (std::size_t k = i; k < std::min(i + threads, frames); ++k)
            pictures.push_back(std::async(std::launch::async, draw, k));
        for (std::size_t k = 0; k < pictures.size(); ++k) {
            const auto added = encoder->add(pictures[k].get(), times[i + k]);
            if (!added) return added.error();
        }
        if (request.progress && !request.progress(static_cast<double>(i) / static_cast<double>(frames)))
            return Error{Error::Kind::Cancelled, "the rendering was stopped", file, ""};
    }
    return encoder->finish();
}

Track exactTrack(const Performance& performance, const ClipRequest& request)
{
    const Camera camera = cameraFor(performance, request);
    Track track = emptyTrack(request);
    if (request.sound)
        track.loudness = loudnessOf(soundAt(camera, performance, request, LoudnessCourse::kSamplingRate));
    for (double t : clipTimes(performance, request)) {
        track.frames.push_back(exactFrame(performance.figureAt(t), camera, t));
        for (Eigen::Vector2d& p : track.frames.back().point)
            p -= shakeAt(t, request.shake, request.seed);
    }
    return track;
}

Track conventionalTrack(const Performance& performance, const ClipRequest& request,
                        const LandmarkOffsets& offsets, std::span<const double> moments)
{
    const Camera camera = cameraFor(performance, request);
    Track track = emptyTrack(request);
    for (std::size_t i = 0; i < moments.size(); ++i) {
        const Figure figure = performance.figureAt(moments[i]);
        track.frames.push_back(exactFrame(figure, camera, static_cast<double>(i) / request.framesPerSecond));
        const double height = performance.body().height;
        Eigen::Vector3d sight = camera.position - figure.midHip;
        sight.z() = 0;
        const NetworkPoints seen =
            offsets.toNetwork(offsets.hipLine().turned(figure.landmark, height, sight.normalized()), height);
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            track.frames.back().point[k] = camera.project(seen[k]);
    }
    return track;
}

} // namespace jl
