#include "exchange/track_pack.h"
#include "exchange/track_file.h"
#include "exchange/track_precision.h"
#include <cmath>
#include <cstring>
#include <limits>
#include <stdexcept>
#include <type_traits>

namespace jl
{
namespace
{

constexpr std::string_view kMagic = "JLT1";
constexpr double kNotTold = std::numeric_limits<double>::quiet_NaN();

class Writer
{
public:
    template <class T>
    void put(T value)
    {
        static_assert(std::is_trivially_copyable_v<T>);
        m_data.append(reinterpret_cast<const char*>(&value), sizeof value);
    }
    void number(double value) { put(static_cast<float>(value)); }
    void text(const std::string& value)
    {
        put(static_cast<std::uint32_t>(value.size()));
        m_data += value;
    }
    std::string m_data{kMagic};
};

/// Throws std::runtime_error where the data ends too early.
class Reader
{
public:
    explicit Reader(std::string_view data) : m_data(data) {}
    std::string_view bytes(std::size_t count)
    {
        if (count > m_data.size()) throw std::runtime_error("it breaks off");
        const std::string_view taken = m_data.substr(0, count);
        m_data.remove_prefix(count);
        return taken;
    }
    template <class T>
    T get()
    {
        T value;
        std::memcpy(&value, bytes(sizeof value).data(), sizeof value);
        return value;
    }
    double number() { return static_cast<double>(get<float>()); }
    std::string text() { return std::string(bytes(get<std::uint32_t>())); }
    std::size_t left() const { return m_data.size(); }

private:
    std::string_view m_data;
};

enum FrameBits : std::uint8_t { Seen = 1, Shifted = 2, Lost = 4 };

void putFrame(Writer& out, const BodyFrame& f)
{
    const bool shifted = f.cameraShift.squaredNorm() > 0;
    out.put(f.time);
    out.put(
        static_cast<std::uint8_t>((f.seen ? Seen : 0) | (shifted ? Shifted : 0) | (f.cameraLost ? Lost : 0)));
    if (shifted) {
        out.number(f.cameraShift.x());
        out.number(f.cameraShift.y());
    }
    if (!f.seen) return;
    out.number(f.score);
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        for (const double value : {f.point[i].x(), f.point[i].y()})
            out.number(value);
        for (const float value : {f.visibility[i], f.metric[i].x(), f.metric[i].y(), f.metric[i].z()})
            out.number(value);
    }
}

BodyFrame frameFrom(Reader& in)
{
    BodyFrame f;
    f.time = in.get<double>();
    const auto bits = in.get<std::uint8_t>();
    f.seen = bits & Seen;
    f.cameraLost = bits & Lost;
    if (bits & Shifted) {
        f.cameraShift.x() = in.number();
        f.cameraShift.y() = in.number();
    }
    if (!f.seen) return f;
    f.score = in.number();
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        f.point[i].x() = in.number();
        f.point[i].y() = in.number();
        f.visibility[i] = in.number();
        for (Eigen::Index k = 0; k < 3; ++k)
            f.metric[i][k] = in.number();
    }
    return f;
}

Track trackFrom(Reader& in)
{
    Track t;
    t.width = in.get<std::int32_t>();
    t.height = in.get<std::int32_t>();
    t.framesPerSecond = in.get<double>();
    t.clip = in.text();
    t.model = in.text();
    const auto heard = in.get<std::uint32_t>();
    for (std::uint32_t i = 0; i < heard; ++i)
        t.loudness.moments.push_back(in.get<LoudnessCourse::Moment>());
    const auto frames = in.get<std::uint32_t>();
    t.frames.reserve(std::min<std::size_t>(frames, in.left() / (sizeof(double) + 1)));
    for (std::uint32_t i = 0; i < frames; ++i) {
        t.frames.push_back(inKeptPrecision(frameFrom(in)));
        if (i > 0 && t.frames[i].time <= t.frames[i - 1].time)
            throw std::runtime_error("its times do not rise");
    }
    if (in.left() > 0) // tracks of before end here
        if (const auto field = in.get<double>(); std::isfinite(field)) t.fieldOfView = field;
    if (in.left() > 0) t.roll = in.get<CameraRoll>();
    if (t.width <= 0 || t.height <= 0) throw std::runtime_error("the picture size is missing");
    return t;
}

} // namespace

std::string packTrack(const Track& t)
{
    Writer out;
    out.put(static_cast<std::int32_t>(t.width));
    out.put(static_cast<std::int32_t>(t.height));
    out.put(t.framesPerSecond);
    out.text(t.clip);
    out.text(t.model);
    out.put(static_cast<std::uint32_t>(t.loudness.moments.size()));
    for (const auto& moment : t.loudness.moments)
        out.put(moment);
    out.put(static_cast<std::uint32_t>(t.frames.size()));
    for (const BodyFrame& f : t.frames)
        putFrame(out, f);
    if (t.fieldOfView || t.roll) out.put(t.fieldOfView.value_or(kNotTold));
    if (t.roll) out.put(*t.roll);
    return std::move(out.m_data);
}

Result<Track> unpackTrack(const std::string& data, const std::string& where)
{
    if (!data.starts_with(kMagic)) return trackFromJson(data, where);
    try {
        Reader in(std::string_view(data).substr(kMagic.size()));
        return trackFrom(in);
    } catch (const std::runtime_error& e) {
        return Error{
            Error::Kind::BadInput, std::string("the body kept for a clip is damaged: ") + e.what(), where,
            "Remove the clip and add it again, or take the library of an earlier day from its backups."};
    }
}

} // namespace jl
