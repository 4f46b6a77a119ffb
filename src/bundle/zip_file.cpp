#include "bundle/zip_file.h"
#include <algorithm>
#include <deque>
#include <filesystem>
#include <fstream>
#include <functional>
#include <set>
#include <zip.h>

namespace jl
{
namespace
{

struct Discard {
    void operator()(zip_t* zip) const { zip_discard(zip); }
};
struct CloseEntry {
    void operator()(zip_file_t* entry) const { zip_fclose(entry); }
};
using ZipHandle = std::unique_ptr<zip_t, Discard>;
using EntryHandle = std::unique_ptr<zip_file_t, CloseEntry>;

constexpr const char* kAskAgain = "Ask for the bundle again, and copy it whole.";

Error failure(const std::string& what, const std::string& where, const std::string& remedy)
{
    return {Error::Kind::BadInput, what, where, remedy};
}

std::string reasonOf(int code)
{
    zip_error_t error;
    zip_error_init_with_code(&error, code);
    std::string words = zip_error_strerror(&error);
    zip_error_fini(&error);
    return words;
}

bool confined(const std::string& name)
{
    if (name.empty() || name.front() == '/' || name.find('\\') != std::string::npos ||
        name.find(':') != std::string::npos)
        return false;
    for (const auto& part : std::filesystem::path(name))
        if (part == ".." || part == ".") return false;
    return true;
}

/// Whether an entry says of itself that it is a link.
bool isLink(zip_t* zip, zip_uint64_t index)
{
    constexpr zip_uint32_t kinds = 0170000, link = 0120000; // of Unix modes
    zip_uint8_t system = 0;
    zip_uint32_t attributes = 0;
    return zip_file_get_external_attributes(zip, index, 0, &system, &attributes) == 0 &&
           system == ZIP_OPSYS_UNIX && (attributes >> 16 & kinds) == link;
}

} // namespace

struct ZipWriter::State {
    std::deque<std::string> texts; ///< the zip reads them when it is written: they must not move until then
    ZipHandle zip;
    std::string path;
    Progress progress;
    bool stopped = false;

    Error failed() const
    {
        return failure(std::string("the bundle cannot be written: ") + zip_strerror(zip.get()), path,
                       "Choose another folder, or make room on the disk.");
    }
};

ZipWriter::ZipWriter(std::unique_ptr<State> state) : m_state(std::move(state)) {}
ZipWriter::ZipWriter(ZipWriter&&) noexcept = default;
ZipWriter& ZipWriter::operator=(ZipWriter&&) noexcept = default;
ZipWriter::~ZipWriter() = default;

Result<ZipWriter> ZipWriter::create(const std::string& path)
{
    auto state = std::make_unique<State>();
    state->path = path;
    int code = 0;
    state->zip.reset(zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code));
    if (!state->zip)
        return failure("the bundle cannot be written: " + reasonOf(code), path, "Choose another folder.");
    return ZipWriter(std::move(state));
}

Result<Done> ZipWriter::add(const std::string& name, std::string text)
{
    const std::string& kept = m_state->texts.emplace_back(std::move(text));
    zip_source_t* source = zip_source_buffer(m_state->zip.get(), kept.data(), kept.size(), 0);
    if (!source) return m_state->failed();
    if (zip_file_add(m_state->zip.get(), name.c_str(), source, ZIP_FL_ENC_UTF_8) < 0) {
        zip_source_free(source);
        return m_state->failed();
    }
    return Done{};
}

Result<Done> ZipWriter::addFile(const std::string& name, const std::string& file)
{
    zip_t* zip = m_state->zip.get();
    constexpr zip_int64_t toItsEnd = -1;
    zip_source_t* source = zip_source_file(zip, file.c_str(), 0, toItsEnd);
    if (!source) return m_state->failed();
    const zip_int64_t index = zip_file_add(zip, name.c_str(), source, ZIP_FL_ENC_UTF_8);
    if (index < 0) {
        zip_source_free(source);
        return m_state->failed();
    }
    if (zip_set_file_compression(zip, static_cast<zip_uint64_t>(index), ZIP_CM_STORE, 0) < 0)
        return m_state->failed();
    return Done{};
}

Result<Done> ZipWriter::finish(const Progress& progress)
{
    State& s = *m_state;
    s.progress = progress;
    zip_register_progress_callback_with_state(
        s.zip.get(), 0.005,
        [](zip_t*, double share, void* state) {
            State& self = *static_cast<State*>(state);
            self.stopped = self.stopped || (self.progress && !self.progress(share));
        },
        nullptr, &s);
    zip_register_cancel_callback_with_state(
        s.zip.get(), [](zip_t*, void* state) { return static_cast<State*>(state)->stopped ? 1 : 0; }, nullptr,
        &s);
    if (zip_close(s.zip.get()) == 0) {
        (void)s.zip.release(); // closed
        return Done{};
    }
    if (s.stopped) return Error{Error::Kind::Cancelled, "the bundle was not finished", s.path, ""};
    return s.failed();
}

struct ZipReader::State {
    ZipHandle zip;
    std::string path;
    ZipLimits limits;
    std::vector<Entry> entries;

    Result<Done> look();
    /// Gives an entry's bytes on piece by piece.
    Result<Done> read(const std::string& name, const std::function<bool(const char*, std::size_t)>& take);
};

Result<Done> ZipReader::State::look()
{
    const auto refused = [&](const std::string& what) {
        return failure("this is no bundle that can be opened safely: " + what, path,
                       "Ask who sent it for a bundle made by this program.");
    };
    const zip_int64_t count = zip_get_num_entries(zip.get(), 0);
    if (count < 0 || static_cast<std::size_t>(count) > limits.entries)
        return refused("it holds more than " + std::to_string(limits.entries) + " files");
    std::set<std::string> names;
    std::uint64_t all = 0;
    for (zip_uint64_t i = 0; i < static_cast<zip_uint64_t>(count); ++i) {
        zip_stat_t about;
        constexpr zip_uint64_t needed = ZIP_STAT_NAME | ZIP_STAT_SIZE;
        if (zip_stat_index(zip.get(), i, ZIP_FL_ENC_STRICT, &about) != 0 || (about.valid & needed) != needed)
            return refused("one of its files cannot be read");
        const std::string name = about.name;
        if (!confined(name)) return refused("\"" + name + "\" leads out of the bundle");
        if (isLink(zip.get(), i)) return refused("\"" + name + "\" is a link");
        if ((about.valid & ZIP_STAT_ENCRYPTION_METHOD) && about.encryption_method != ZIP_EM_NONE)
            return refused("\"" + name + "\" is encrypted");
        if (!names.insert(name).second) return refused("it holds \"" + name + "\" twice");
        if (about.size > limits.allBytes || (all += about.size) > limits.allBytes)
            return refused("unpacked it is larger than " + std::to_string(limits.allBytes >> 30) + " GB");
        entries.push_back({name, about.size});
    }
    return Done{};
}

Result<Done> ZipReader::State::read(const std::string& name,
                                    const std::function<bool(const char*, std::size_t)>& take)
{
    const auto entry =
        std::find_if(entries.begin(), entries.end(), [&](const Entry& e) { return e.name == name; });
    if (entry == entries.end()) return failure("the bundle lacks \"" + name + "\"", path, kAskAgain);
    const auto damaged = [&](const char* what) {
        return failure("\"" + name + "\" in the bundle is damaged: " + what, path, kAskAgain);
    };
    const EntryHandle file(zip_fopen_index(zip.get(), static_cast<zip_uint64_t>(entry - entries.begin()), 0));
    if (!file) return damaged(zip_strerror(zip.get()));
    std::vector<char> piece(std::size_t(1) << 18);
    std::uint64_t sum = 0;
    for (;;) {
        const zip_int64_t n = zip_fread(file.get(), piece.data(), piece.size());
        if (n < 0) return damaged(zip_file_strerror(file.get()));
        if (n == 0) break;
        sum += static_cast<std::uint64_t>(n);
        if (sum > entry->bytes) return damaged("it is larger than it says");
        if (!take(piece.data(), static_cast<std::size_t>(n)))
            return Error{Error::Kind::Cancelled, "the bundle was not opened", path, ""};
    }
    if (sum != entry->bytes) return damaged("it is cut off");
    return Done{};
}

ZipReader::ZipReader(std::unique_ptr<State> state) : m_state(std::move(state)) {}
ZipReader::ZipReader(ZipReader&&) noexcept = default;
ZipReader& ZipReader::operator=(ZipReader&&) noexcept = default;
ZipReader::~ZipReader() = default;

Result<ZipReader> ZipReader::open(const std::string& path, const ZipLimits& limits)
{
    auto state = std::make_unique<State>();
    state->path = path;
    state->limits = limits;
    int code = 0;
    state->zip.reset(zip_open(path.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &code));
    if (!state->zip) return failure("the bundle cannot be opened: " + reasonOf(code), path, kAskAgain);
    const auto looked = state->look();
    if (!looked) return looked.error();
    return ZipReader(std::move(state));
}

const std::string& ZipReader::path() const
{
    return m_state->path;
}

const std::vector<ZipReader::Entry>& ZipReader::entries() const
{
    return m_state->entries;
}

bool ZipReader::contains(const std::string& name) const
{
    return std::any_of(entries().begin(), entries().end(), [&](const Entry& e) { return e.name == name; });
}

Result<std::string> ZipReader::text(const std::string& name) const
{
    for (const Entry& e : entries())
        if (e.name == name && e.bytes > m_state->limits.textBytes)
            return failure("\"" + name + "\" in the bundle is too large", path(), kAskAgain);
    std::string all;
    const auto done = m_state->read(name, [&](const char* bytes, std::size_t n) {
        all.append(bytes, n);
        return true;
    });
    if (!done) return done.error();
    return all;
}

Result<Done> ZipReader::unpack(const std::string& name, const std::string& file,
                               const Progress& progress) const
{
    const std::string partial = file + ".part";
    std::error_code ignored; // the message names what could not be written
    const auto stop = [&](const Error& error) {
        std::filesystem::remove(partial, ignored);
        return error;
    };
    const Error unwritable = failure("the file cannot be written", file, "Make room on the disk.");
    std::uint64_t size = 1, sum = 0;
    for (const Entry& e : entries())
        if (e.name == name) size = std::max<std::uint64_t>(1, e.bytes);
    std::ofstream out(partial, std::ios::binary);
    const auto done = m_state->read(name, [&](const char* bytes, std::size_t n) {
        out.write(bytes, static_cast<std::streamsize>(n));
        sum += n;
        return out && (!progress || progress(static_cast<double>(sum) / static_cast<double>(size)));
    });
    out.flush();
    if (!out) return stop(unwritable);
    if (!done) return stop(done.error());
    out.close();
    std::error_code wrong;
    std::filesystem::rename(partial, file, wrong);
    return wrong ? Result<Done>(stop(unwritable)) : Done{};
}

Result<Done> ZipReader::verify(const std::string& name) const
{
    return m_state->read(name, [](const char*, std::size_t) { return true; });
}

} // namespace jl
