#pragma once
#include "base/progress.h"
#include "base/result.h"
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace jl
{

/// Writes a zip. The file appears under its name only when finish() succeeded.
class ZipWriter
{
public:
    static Result<ZipWriter> create(const std::string& path);
    ZipWriter(ZipWriter&&) noexcept;
    ZipWriter& operator=(ZipWriter&&) noexcept;
    ~ZipWriter();

    Result<Done> add(const std::string& name, std::string text);
    /// Adds a file as it is: video does not get any smaller. It must stay in place until finish().
    Result<Done> addFile(const std::string& name, const std::string& file);
    Result<Done> finish(const Progress& progress = {});

private:
    struct State;
    explicit ZipWriter(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

/// What a zip may hold before it is looked into any further.
struct ZipLimits {
    std::size_t entries = 32;
    std::uint64_t textBytes = std::uint64_t(512) << 20; ///< of an entry that is read into memory
    std::uint64_t allBytes = std::uint64_t(8) << 30;    ///< of all entries together, unpacked
};

/// Reads a zip that a stranger may have made. Nothing of it is ever written by the name that it gives
/// itself. Refused as a whole: more or larger entries than the limits allow, a name twice, absolute names,
/// names with "..", backslashes or a drive, links, encrypted entries.
class ZipReader
{
public:
    struct Entry {
        std::string name;
        std::uint64_t bytes = 0; ///< unpacked
    };
    static Result<ZipReader> open(const std::string& path, const ZipLimits& limits = {});
    ZipReader(ZipReader&&) noexcept;
    ZipReader& operator=(ZipReader&&) noexcept;
    ~ZipReader();

    const std::string& path() const;
    const std::vector<Entry>& entries() const;
    bool contains(const std::string& name) const;

    /// An entry's bytes. An error: it is not there, too large for memory, cut off, or its checksum is wrong.
    Result<std::string> text(const std::string& name) const;
    /// Unpacks an entry into a file, which appears only when all of it is there and its checksum is right.
    Result<Done> unpack(const std::string& name, const std::string& file,
                        const Progress& progress = {}) const;
    /// Reads an entry and throws it away: whether it is whole.
    Result<Done> verify(const std::string& name) const;

private:
    struct State;
    explicit ZipReader(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

} // namespace jl
