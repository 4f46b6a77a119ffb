#include "exchange/track_file.h"
#include "base/json_file.h"
#include "exchange/track_precision.h"
#include <array>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <fstream>

namespace jl
{
namespace
{

using Json = nlohmann::json;
constexpr int kVersion = 1;
const char* const kFormat = "jolly-lantern-track";

/// The shortest decimal number of such a float, as a double: what is written stays short.
double shortest(float value)
{
    char text[32];
    const auto end = std::to_chars(text, text + sizeof text, value).ptr;
    double number = 0;
    std::from_chars(text, end, number);
    return number;
}

Json toJson(const Track& t)
{
    Json frames = Json::array();
    for (const BodyFrame& exact : t.frames) {
        const BodyFrame f = inKeptPrecision(exact);
        Json frame{{"time", f.time}, {"seen", f.seen}};
        if (f.seen) {
            Json points = Json::array(), metric = Json::array();
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                points.push_back({f.point[i].x(), f.point[i].y(), shortest(f.visibility[i])});
                metric.push_back(
                    {shortest(f.metric[i].x()), shortest(f.metric[i].y()), shortest(f.metric[i].z())});
            }
            frame["score"] = f.score;
            frame["points"] = std::move(points);
            frame["metric"] = std::move(metric);
        }
        if (!f.cameraShift.isZero(0)) frame["camera_shift"] = {f.cameraShift.x(), f.cameraShift.y()};
        if (f.cameraLost) frame["camera_lost"] = true;
        frames.push_back(std::move(frame));
    }
    Json names = Json::array();
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        names.push_back(landmarkName(static_cast<Landmark>(i)));
    Json track{{"format", kFormat},        {"version", kVersion}, {"clip", t.clip},
               {"model", t.model},         {"width", t.width},    {"height", t.height},
               {"fps", t.framesPerSecond}, {"landmarks", names},  {"frames", std::move(frames)}};
    if (t.fieldOfView) track["field_of_view"] = *t.fieldOfView;
    if (t.roll) track["roll"] = {t.roll->deg, t.roll->spread};
    if (!t.loudness.empty()) track["loudness"] = t.loudness.moments;
    return track;
}

/// Throws Json::exception with the place for anything missing, misshapen or not finite.
Track fromJson(const Json& j)
{
    Track t;
    t.clip = j.value("clip", "");
    t.model = j.value("model", "");
    t.width = j.at("width");
    t.height = j.at("height");
    t.framesPerSecond = j.at("fps");
    if (const auto field = j.find("field_of_view"); field != j.end()) t.fieldOfView = field->get<double>();
    if (const auto roll = j.find("roll"); roll != j.end())
        t.roll = CameraRoll{roll->at(0).get<double>(), roll->at(1).get<double>()};
    double last = -1;
    for (const Json& frame : j.at("frames")) {
        BodyFrame f;
        f.time = frame.at("time");
        f.seen = frame.at("seen");
        if (f.time <= last)
            throw std::runtime_error("the times of frame " + std::to_string(t.frames.size()) +
                                     " do not rise");
        last = f.time;
        if (const auto shift = frame.find("camera_shift"); shift != frame.end())
            f.cameraShift = {shift->at(0).get<double>(), shift->at(1).get<double>()};
        f.cameraLost = frame.value("camera_lost", false);
        if (f.seen) {
            f.score = frame.value("score", 1.0);
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                const Json &p = frame.at("points").at(i), &m = frame.at("metric").at(i);
                f.point[i] = {p.at(0).get<double>(), p.at(1).get<double>()};
                f.visibility[i] = p.at(2);
                f.metric[i] = {m.at(0).get<float>(), m.at(1).get<float>(), m.at(2).get<float>()};
            }
        }
        t.frames.push_back(f);
    }
    if (const auto loudness = j.find("loudness"); loudness != j.end())
        t.loudness.moments = loudness->get<std::vector<LoudnessCourse::Moment>>();
    if (t.width <= 0 || t.height <= 0) throw std::runtime_error("the picture size is missing");
    return t;
}

std::string toCsv(const Track& t)
{
    char head[200];
    std::snprintf(head, sizeof head, "# %s %d, width %d, height %d, fps %.6f, network %s\n", kFormat,
                  kVersion, t.width, t.height, t.framesPerSecond, t.model.c_str());
    std::string text = head;
    text += "time,seen,score";
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        const std::string name(landmarkName(static_cast<Landmark>(i)));
        text += "," + name + "_x," + name + "_y," + name + "_visibility";
    }
    text += '\n';
    char cell[96];
    for (const BodyFrame& f : t.frames) {
        std::snprintf(cell, sizeof cell, "%.6f,%d,%.4f", f.time, f.seen ? 1 : 0, f.score);
        text += cell;
        for (std::size_t i = 0; i < kLandmarkCount; ++i) {
            if (f.seen)
                std::snprintf(cell, sizeof cell, ",%.3f,%.3f,%.4f", f.point[i].x(), f.point[i].y(),
                              f.visibility[i]);
            text += f.seen ? cell : ",,,";
        }
        text += '\n';
    }
    return text;
}

/// Throws std::runtime_error with the line for anything missing or misshapen.
Track fromCsv(std::istream& in)
{
    Track t;
    std::string line;
    int version = 0;
    char network[32] = "";
    std::getline(in, line);
    if (std::sscanf(line.c_str(), "# jolly-lantern-track %d, width %d, height %d, fps %lf, network %31s",
                    &version, &t.width, &t.height, &t.framesPerSecond, network) < 4 ||
        version != kVersion || t.width <= 0 || t.height <= 0)
        throw std::runtime_error("line 1 does not tell the picture's size and rate");
    t.model = network;
    std::getline(in, line); // names of the columns
    for (int n = 3; std::getline(in, line); ++n) {
        std::array<double, 3 + 3 * kLandmarkCount> cell{};
        const char* at = line.c_str();
        for (std::size_t i = 0; i < cell.size(); ++i) {
            char* end = nullptr;
            cell[i] = std::strtod(at, &end);
            const bool last = i + 1 == cell.size();
            if ((i < 3 && end == at) || (last ? *end != 0 && *end != '\r' : *end != ','))
                throw std::runtime_error("line " + std::to_string(n) + ", column " + std::to_string(i + 1) +
                                         " is not a number");
            at = end + 1;
        }
        BodyFrame f;
        f.time = cell[0];
        f.seen = cell[1] != 0;
        f.score = cell[2];
        for (std::size_t i = 0; f.seen && i < kLandmarkCount; ++i) {
            f.point[i] = {cell[3 + 3 * i], cell[4 + 3 * i]};
            f.visibility[i] = cell[5 + 3 * i];
        }
        if (!t.frames.empty() && f.time <= t.frames.back().time)
            throw std::runtime_error("the time of line " + std::to_string(n) + " does not rise");
        t.frames.push_back(f);
    }
    return t;
}

std::string toTrc(const Track& t, const std::string& name)
{
    char line[160];
    std::string text = "PathFileType\t4\t(X/Y/Z)\t" + name +
                       "\nDataRate\tCameraRate\tNumFrames\tNumMarkers\tUnits\tOrigDataRate\tOrigDataStartFram"
                       "e\tOrigNumFrames\n";
    std::snprintf(line, sizeof line, "%.3f\t%.3f\t%zu\t%zu\tm\t%.3f\t1\t%zu\n", t.framesPerSecond,
                  t.framesPerSecond, t.frames.size(), kLandmarkCount, t.framesPerSecond, t.frames.size());
    text += line;
    text += "Frame#\tTime";
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        text += "\t" + std::string(landmarkName(static_cast<Landmark>(i))) + "\t\t";
    text += "\n\t";
    for (std::size_t i = 1; i <= kLandmarkCount; ++i) {
        std::snprintf(line, sizeof line, "\tX%zu\tY%zu\tZ%zu", i, i, i);
        text += line;
    }
    text += "\n\n";
    for (std::size_t n = 0; n < t.frames.size(); ++n) {
        const BodyFrame& f = t.frames[n];
        std::snprintf(line, sizeof line, "%zu\t%.6f", n + 1, f.time);
        text += line;
        for (const auto& m : f.metric) { // y up, as the format's readers expect
            if (f.seen) std::snprintf(line, sizeof line, "\t%.5f\t%.5f\t%.5f", m.x(), -m.y(), -m.z());
            text += f.seen ? line : "\t\t\t";
        }
        text += '\n';
    }
    return text;
}

Result<Track> parsed(const Json& j, const std::string& where)
{
    const std::string remedy = "Extract the clip again, or restore an earlier copy.";
    if (!j.is_object() || j.value("format", "") != kFormat)
        return Error{Error::Kind::BadInput, "this JSON is not a track of a body", where,
                     "Name a file made by extract."};
    if (j.value("version", 0) > kVersion)
        return Error{Error::Kind::BadInput, "the track was written by a newer program", where,
                     "Update this program to read it."};
    try {
        return fromJson(j);
    } catch (const std::exception& e) {
        return Error{Error::Kind::BadInput, std::string("the track is damaged: ") + e.what(), where, remedy};
    }
}

} // namespace

std::string trackToJson(const Track& track)
{
    return toJson(track).dump();
}

Result<Track> trackFromJson(const std::string& text, const std::string& where)
{
    const Json j = Json::parse(text, nullptr, false);
    if (j.is_discarded())
        return Error{Error::Kind::BadInput, "the track is not complete JSON", where,
                     "Extract the clip again."};
    return parsed(j, where);
}

Result<Done> writeTrack(const Track& track, const std::filesystem::path& file)
{
    const std::string ending = file.extension().string();
    if (ending == ".json") return writeText(file, trackToJson(track));
    if (ending == ".csv") return writeText(file, toCsv(track));
    if (ending == ".trc") return writeText(file, toTrc(track, file.filename().string()));
    return Error{Error::Kind::WrongUse, "a track cannot be written as \"" + ending + "\"", file.string(),
                 "Let the name end in .json, .csv or .trc."};
}

Result<Track> readTrack(const std::filesystem::path& file)
{
    if (file.extension() == ".csv") {
        std::ifstream in(file);
        try {
            if (!in) throw std::runtime_error("it cannot be opened");
            return fromCsv(in);
        } catch (const std::runtime_error& e) {
            return Error{Error::Kind::BadInput,
                         std::string("the table of points cannot be read: ") + e.what(), file.string(),
                         "Name a table made by extract."};
        }
    }
    const auto json = readJson(file);
    if (!json) return json.error();
    return parsed(*json, file.string());
}

} // namespace jl
