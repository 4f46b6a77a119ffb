#pragma once
#include <cstdint>
#include <cstring>
#include <stdexcept>
#include <string>
#include <vector>

namespace jl::flatbuffer
{

/// Thrown inside the reader when a file is cut short or its offsets lead outside; never leaves the vision
/// room.
struct Damaged : std::runtime_error {
    using std::runtime_error::runtime_error;
};

using Bytes = std::vector<std::uint8_t>;

template <class T>
T load(const Bytes& bytes, std::size_t at)
{
    if (at > bytes.size() || bytes.size() - at < sizeof(T)) throw Damaged("it is cut short");
    T value;
    std::memcpy(&value, bytes.data() + at, sizeof value);
    return value;
}

/// A bounds-checked view of one flatbuffers table. Absent fields give defaults, as the format wants.
class Table
{
public:
    Table() = default;
    Table(const Bytes& bytes, std::size_t position) : m_bytes(&bytes), m_position(position) {}
    static Table root(const Bytes& bytes) { return {bytes, load<std::uint32_t>(bytes, 0)}; }

    bool exists() const { return m_bytes != nullptr; }

    template <class T>
    T number(int field, T absent = 0) const
    {
        const std::size_t at = place(field);
        return at ? load<T>(*m_bytes, at) : absent;
    }
    Table table(int field) const
    {
        const std::size_t at = target(field);
        return at ? Table(*m_bytes, at) : Table();
    }
    std::vector<Table> tables(int field) const
    {
        std::vector<Table> all;
        const std::size_t at = target(field);
        const std::size_t n = length(field, 4);
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t entry = at + 4 + 4 * i;
            all.emplace_back(*m_bytes, entry + load<std::uint32_t>(*m_bytes, entry));
        }
        return all;
    }
    template <class T>
    std::vector<int> integers(int field) const
    {
        std::vector<int> all;
        const std::size_t at = target(field);
        const std::size_t n = length(field, sizeof(T));
        for (std::size_t i = 0; i < n; ++i)
            all.push_back(static_cast<int>(load<T>(*m_bytes, at + 4 + i * sizeof(T))));
        return all;
    }
    struct Blob {
        const std::uint8_t* data = nullptr;
        std::size_t size = 0;
    };
    Blob blob(int field) const
    {
        const std::size_t n = length(field, 1);
        return n ? Blob{m_bytes->data() + target(field) + 4, n} : Blob{};
    }
    std::string text(int field) const
    {
        const Blob b = blob(field);
        return {reinterpret_cast<const char*>(b.data), b.size};
    }

private:
    std::size_t place(int field) const
    {
        if (!m_bytes) return 0;
        const std::size_t table =
            m_position - static_cast<std::size_t>(load<std::int32_t>(*m_bytes, m_position));
        const std::size_t slot = 4 + 2 * static_cast<std::size_t>(field);
        if (slot + 2 > load<std::uint16_t>(*m_bytes, table)) return 0;
        const std::uint16_t offset = load<std::uint16_t>(*m_bytes, table + slot);
        return offset ? m_position + offset : 0;
    }
    std::size_t target(int field) const
    {
        const std::size_t at = place(field);
        return at ? at + load<std::uint32_t>(*m_bytes, at) : 0;
    }
    std::size_t length(int field, std::size_t itemSize) const
    {
        const std::size_t at = target(field);
        if (!at) return 0;
        const std::size_t n = load<std::uint32_t>(*m_bytes, at);
        if (n > (m_bytes->size() - at - 4) / itemSize) throw Damaged("a list in it is longer than the file");
        return n;
    }

    const Bytes* m_bytes = nullptr;
    std::size_t m_position = 0;
};

} // namespace jl::flatbuffer
