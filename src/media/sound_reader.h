#pragma once
#include "base/result.h"
#include <memory>
#include <string>
#include <vector>

namespace jl
{

/// Reads the sound of a clip, all channels mixed into one, at any sampling rate. Times are those of the
/// clip's pictures: 0 is its first frame. Where the file has a hole in its sound there is silence, so that
/// sample i after a seek to t always belongs to t + i / rate.
class SoundReader
{
public:
    /// NothingFound when the clip has no sound; otherwise errors name the file and say what is wrong.
    static Result<SoundReader> open(const std::string& path, int rate);
    SoundReader(SoundReader&&) noexcept;
    SoundReader& operator=(SoundReader&&) noexcept;
    ~SoundReader();

    int rate() const;

    /// Moves to a time, s; before the clip's sound begins there is silence.
    Result<Done> seek(double time);

    /// The next samples, -1 to 1, as many as come at once; none at the end.
    std::vector<float> next();

private:
    struct State;
    explicit SoundReader(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

/// Whether a clip has a sound at all.
bool hasSound(const std::string& path);

} // namespace jl
