#include "draw/pair_clip.h"
#include "draw/fault_strip.h"
#include "draw/rgb_image.h"
#include "media/encoder.h"
#include "media/sound_stream.h"
#include <QSaveFile>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// A stretch of a passage at its tempo, or held where its end is its beginning.
struct Stretch {
    Seconds from = 0, to = 0; ///< s in the student's clip
    std::size_t pictures = 0;
};

std::vector<Stretch> stretchesOf(const PairPassage& passage, const PairTiming& timing)
{
    const auto count = [&](Seconds lasts) {
        return static_cast<std::size_t>(std::max<long>(1, std::lround(lasts * timing.framesPerSecond)));
    };
    const auto moving = [&](Seconds from, Seconds to) {
        return Stretch{from, to, count((to - from) / timing.tempo)};
    };
    std::vector<Stretch> once;
    if (passage.moment) {
        once = {moving(passage.from, *passage.moment),
                {*passage.moment, *passage.moment, count(timing.hold)},
                moving(*passage.moment, passage.to)};
    } else {
        once = {moving(passage.from, passage.to)};
    }
    std::vector<Stretch> all;
    for (int i = 0; i < timing.times; ++i)
        all.insert(all.end(), once.begin(), once.end());
    return all;
}

/// The sound that belongs to a number of pictures: silence where the picture is held.
Result<Done> addSound(Encoder& encoder, const std::string& clip, const Stretch& stretch,
                      const PairTiming& timing)
{
    const auto samples = static_cast<std::size_t>(
        std::lround(static_cast<double>(stretch.pictures) / timing.framesPerSecond * SoundStream::kRate));
    std::vector<float> sound;
    if (stretch.to > stretch.from) {
        auto stream = SoundStream::open(clip, stretch.from, timing.tempo);
        if (!stream) return stream.error();
        sound = stream->take(samples);
    }
    sound.resize(samples, 0);
    return encoder.addSound(sound);
}

std::string fileOf(const StillsPlace& place, const char* kind, std::size_t i)
{
    return place.folder + "/" + place.name + kind + " " + std::to_string(i + 1) + ".png";
}

Result<Done> savePng(const QImage& picture, const std::string& file)
{
    QSaveFile out(QString::fromStdString(file));
    if (out.open(QIODevice::WriteOnly) && picture.save(&out, "PNG") && out.commit()) return Done{};
    return Error{Error::Kind::BadInput, "the picture cannot be written: " + out.errorString().toStdString(),
                 file, "Choose another folder, or make room on the disk."};
}

Result<Encoder> encoderFor(const PairClipRequest& request, const std::string& file)
{
    EncoderOptions options;
    const QSize size = PairPicture::sizeOf(request.style.shape);
    options.width = size.width();
    options.height = size.height();
    options.framesPerSecond = request.timing.framesPerSecond;
    options.quality = 21;
    options.keyFrameEvery = 25; // the clip is played, not sought in
    if (request.timing.sound) options.soundRate = SoundStream::kRate;
    return Encoder::create(file, options);
}

Result<Done> check(const PairClipRequest& request, const PictureFiles& files, const std::string& file)
{
    const auto wrong = [&](const char* what, const char* remedy) {
        return Error{Error::Kind::WrongUse, what, file, remedy};
    };
    if (request.passages.empty())
        return Error{Error::Kind::NothingFound, "there is nothing to show in a moving picture", file,
                     "Accept a correction, or name a posture."};
    if (!(request.timing.tempo >= 0.125 && request.timing.tempo <= 2))
        return wrong("this tempo cannot be shown", "Choose one between 0.125 and 2.");
    if (request.timing.times < 1 || request.timing.times > 20)
        return wrong("a passage cannot be shown so often", "Choose 1 to 20 times.");
    if (request.timing.sound && (files.student.empty() || !hasSound(files.student)))
        return Error{Error::Kind::NothingFound, "the student's clip has no sound", files.student,
                     "Leave the sound out."};
    return Done{};
}

} // namespace

std::vector<Seconds> pictureTimes(const PairPassage& passage, const PairTiming& timing)
{
    std::vector<Seconds> times;
    for (const Stretch& s : stretchesOf(passage, timing))
        for (std::size_t i = 0; i < s.pictures; ++i)
            times.push_back(s.from +
                            (s.to - s.from) * static_cast<double>(i) / static_cast<double>(s.pictures));
    return times;
}

Result<Done> writePairClip(const std::shared_ptr<const ReviewScene>& scene, const PictureFiles& files,
                           const PairClipRequest& request, const Theme& theme, const std::string& file,
                           const Progress& progress)
{
    const auto sound = check(request, files, file);
    if (!sound) return sound.error();
    std::size_t all = 0, done = 0;
    for (const PairPassage& p : request.passages)
        all += pictureTimes(p, request.timing).size();
    auto encoder = encoderFor(request, file);
    if (!encoder) return encoder.error();
    for (const PairPassage& passage : request.passages) {
        auto picture = PairPicture::make(scene, files, passage, request.style, theme);
        if (!picture) return picture.error();
        if (request.timing.sound)
            for (const Stretch& s : stretchesOf(passage, request.timing))
                if (const auto added = addSound(*encoder, files.student, s, request.timing); !added)
                    return added.error();
        for (const Seconds t : pictureTimes(passage, request.timing)) {
            const auto drawn = picture->at(t);
            if (!drawn) return drawn.error();
            const auto added =
                encoder->add(rgbOf(*drawn), static_cast<double>(done) / request.timing.framesPerSecond);
            if (!added) return added.error();
            ++done;
            if (progress && !progress(static_cast<double>(done) / static_cast<double>(all)))
                return Error{Error::Kind::Cancelled, "the moving picture was not finished", file, ""};
        }
    }
    return encoder->finish();
}

Result<std::vector<std::string>> writePairStills(const std::shared_ptr<const ReviewScene>& scene,
                                                 const PictureFiles& files, const PairClipRequest& request,
                                                 const Theme& theme, const StillsPlace& place)
{
    std::vector<std::string> written;
    for (std::size_t i = 0; i < request.passages.size(); ++i) {
        const PairPassage& passage = request.passages[i];
        auto picture = PairPicture::make(scene, files, passage, request.style, theme);
        if (!picture) return picture.error();
        const auto still = picture->at(passage.moment.value_or(passage.to));
        if (!still) return still.error();
        const std::string file = fileOf(place, "", i);
        const auto saved = savePng(*still, file);
        if (!saved) return saved.error();
        written.push_back(file);
    }
    return written;
}

Result<std::vector<std::string>> writeFaultStrips(const ShippedData& data, const ReviewScene& scene,
                                                  const Slip& slip, const Theme& theme,
                                                  const StillsPlace& place)
{
    std::vector<std::string> written;
    for (std::size_t i = 0; i < slip.items.size(); ++i) {
        const auto strip = faultStrip(data, scene, slip.items[i], theme);
        if (!strip && strip.error().kind == Error::Kind::NothingFound) continue;
        if (!strip) return strip.error();
        const std::string file = fileOf(place, " right and wrong", i);
        const auto saved = savePng(*strip, file);
        if (!saved) return saved.error();
        written.push_back(file);
    }
    return written;
}

} // namespace jl
