#include "lineup/picture_series.h"

namespace jl
{

PictureSeries picturesOf(const Track& track, double standingSize, double rate, double begin, double end)
{
    PictureSeries out;
    for (double t = begin; t <= end; t += 1 / rate) {
        const BodyFrame& f = track.frames[track.nearest(t)];
        if (!f.seen || (!out.time.empty() && f.time <= out.time.back())) continue;
        out.time.push_back(f.time);
        out.lines.push_back(bodyLines(f, standingSize));
    }
    return out;
}

PictureSeries picturesOf(const ModelPictures& model, double rate, double begin, double end)
{
    PictureSeries out;
    for (double t = begin; t <= end; t += 1 / rate) {
        out.time.push_back(t);
        out.lines.push_back(model.at(t));
    }
    return out;
}

} // namespace jl
