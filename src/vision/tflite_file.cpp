#include "vision/tflite_file.h"
#include "vision/flatbuffer.h"
#include <algorithm>
#include <cmath>
#include <fstream>
#include <functional>
#include <iterator>
#include <map>

namespace jl::tflite
{
namespace
{

using flatbuffer::Bytes;
using flatbuffer::Damaged;
using flatbuffer::Table;

enum class Storage { Float32 = 0, Float16 = 1, Int32 = 2 };

/// A tensor as it lies in the file.
struct Stored {
    std::vector<int> shape;
    Storage type = Storage::Float32;
    Table::Blob data;
    Table sparsity;
};

float fromHalf(std::uint16_t h)
{
    const std::uint32_t sign = static_cast<std::uint32_t>(h & 0x8000u) << 16;
    const std::uint32_t exponent = (h >> 10) & 31u, mantissa = h & 1023u;
    if (exponent == 0) {
        const float small = std::ldexp(static_cast<float>(mantissa), -24);
        return sign ? -small : small;
    }
    const std::uint32_t bits =
        sign | (exponent == 31 ? 0x7f800000u : (exponent + 112) << 23) | (mantissa << 13);
    float value;
    std::memcpy(&value, &bits, 4);
    return value;
}

std::size_t sizeOf(Storage type)
{
    return type == Storage::Float16 ? 2 : 4;
}

float element(const Stored& t, std::size_t i)
{
    if ((i + 1) * sizeOf(t.type) > t.data.size) throw Damaged("a constant is shorter than its shape");
    const std::uint8_t* p = t.data.data + i * sizeOf(t.type);
    if (t.type == Storage::Float16) {
        std::uint16_t h;
        std::memcpy(&h, p, 2);
        return fromHalf(h);
    }
    if (t.type == Storage::Int32) {
        std::int32_t v;
        std::memcpy(&v, p, 4);
        return static_cast<float>(v);
    }
    float f;
    std::memcpy(&f, p, 4);
    return f;
}

std::size_t product(const std::vector<int>& shape)
{
    std::size_t n = 1;
    for (int d : shape) {
        if (d < 0 || d > (1 << 24)) throw Damaged("a tensor has an impossible shape");
        n *= static_cast<std::size_t>(d);
    }
    if (n > (std::size_t{1} << 28)) throw Damaged("a tensor has an impossible size");
    return n;
}

/// One level of a sparse tensor: dense (all indices) or compressed (listed indices).
struct Level {
    bool compressed;
    int size;
    std::vector<int> segments, indices;
};

std::vector<int> indexVector(const Table& meta, int typeField)
{
    const Table v = meta.table(typeField + 1);
    switch (meta.number<std::uint8_t>(typeField)) {
    case 1:
        return v.integers<std::int32_t>(0);
    case 2:
        return v.integers<std::uint16_t>(0);
    case 3:
        return v.integers<std::uint8_t>(0);
    default:
        throw Damaged("a sparse constant has an unknown index type");
    }
}

/// Expands a block-sparse constant. Levels are listed in the order of traversal; one whose traversal order is
/// at or above the rank is a block that refines the dimension named in the block map.
std::vector<float> expanded(const Stored& t)
{
    const auto order = t.sparsity.integers<std::int32_t>(0);
    const auto blockMap = t.sparsity.integers<std::int32_t>(1);
    const auto metas = t.sparsity.tables(2);
    const std::size_t rank = t.shape.size(), count = order.size();
    if (metas.size() != count || count != rank + blockMap.size())
        throw Damaged("a sparse constant is inconsistent");
    std::vector<Level> levels;
    std::vector<int> block(blockMap.size(), 1);
    for (std::size_t i = 0; i < count; ++i) {
        Level level{metas[i].number<std::int8_t>(0) == 1, metas[i].number<std::int32_t>(1), {}, {}};
        if (level.compressed) {
            level.segments = indexVector(metas[i], 2);
            level.indices = indexVector(metas[i], 4);
        }
        if (order[i] < 0 || static_cast<std::size_t>(order[i]) >= count)
            throw Damaged("a sparse constant is inconsistent");
        if (static_cast<std::size_t>(order[i]) >= rank) block[order[i] - rank] = level.size;
        levels.push_back(std::move(level));
    }
    std::vector<float> dense(product(t.shape), 0.f);
    std::vector<int> at(count);
    std::size_t next = 0;
    const auto store = [&] {
        std::vector<int> place(rank);
        for (std::size_t i = 0; i < count; ++i)
            if (static_cast<std::size_t>(order[i]) < rank) place[order[i]] = at[i];
        for (std::size_t i = 0; i < count; ++i) {
            if (static_cast<std::size_t>(order[i]) < rank) continue;
            const std::size_t b = order[i] - rank;
            int& p = place.at(blockMap.at(b));
            p = p * block[b] + at[i];
        }
        std::size_t flat = 0;
        for (std::size_t i = 0; i < rank; ++i)
            flat = flat * t.shape[i] + place[i];
        dense.at(flat) = element(t, next++);
    };
    const std::function<void(std::size_t, std::size_t)> walk = [&](std::size_t depth, std::size_t parent) {
        if (depth == count) return store();
        const Level& level = levels[depth];
        if (level.compressed) {
            for (int i = level.segments.at(parent); i < level.segments.at(parent + 1); ++i) {
                at[depth] = level.indices.at(i);
                walk(depth + 1, i);
            }
        } else {
            for (int i = 0; i < level.size; ++i) {
                at[depth] = i;
                walk(depth + 1, parent * level.size + i);
            }
        }
    };
    walk(0, 0);
    return dense;
}

std::vector<float> constantValues(const Stored& t)
{
    if (t.sparsity.exists()) return expanded(t);
    std::vector<float> values(product(t.shape));
    for (std::size_t i = 0; i < values.size(); ++i)
        values[i] = element(t, i);
    return values;
}

OpOptions optionsOf(Op op, const Table& o)
{
    OpOptions out;
    const auto activation = [&](int field) {
        out.activation = static_cast<Activation>(o.number<std::int8_t>(field));
    };
    const auto strides = [&] {
        out.samePadding = o.number<std::int8_t>(0) == 0;
        out.strideWidth = o.number<std::int32_t>(1, 1);
        out.strideHeight = o.number<std::int32_t>(2, 1);
    };
    switch (op) {
    case Op::Conv2d:
    case Op::DepthwiseConv2d: {
        const int shift = op == Op::DepthwiseConv2d ? 1 : 0; // a depth multiplier comes in between
        strides();
        activation(3 + shift);
        out.dilationWidth = o.number<std::int32_t>(4 + shift, 1);
        out.dilationHeight = o.number<std::int32_t>(5 + shift, 1);
        break;
    }
    case Op::MaxPool2d:
        strides();
        out.filterWidth = o.number<std::int32_t>(3, 1);
        out.filterHeight = o.number<std::int32_t>(4, 1);
        activation(5);
        break;
    case Op::Add:
        activation(0);
        break;
    case Op::Concatenation:
        out.axis = o.number<std::int32_t>(0);
        break;
    case Op::DepthToSpace:
        out.blockSize = o.number<std::int32_t>(0, 1);
        break;
    case Op::ResizeBilinear:
        out.alignCorners = o.number<std::uint8_t>(2) != 0;
        out.halfPixelCentres = o.number<std::uint8_t>(3) != 0;
        break;
    default:
        break;
    }
    return out;
}

/// Gives every tensor that is stored, or made from a stored one by Densify and Dequantize alone, its values;
/// those operators then have no more work to do at run time.
void resolveConstants(Model& model, const std::vector<Stored>& stored)
{
    for (std::size_t i = 0; i < stored.size(); ++i)
        if (stored[i].data.size) model.tensors[i].values = constantValues(stored[i]);
    std::vector<Operator> kept;
    for (Operator& op : model.operators) {
        const bool prepares = op.op == Op::Dequantize || op.op == Op::Densify;
        if (!prepares) {
            kept.push_back(std::move(op));
            continue;
        }
        Tensor& from = model.tensors.at(op.inputs.at(0));
        if (from.values.empty()) throw Damaged("a weight has no values");
        model.tensors.at(op.outputs.at(0)).values = std::move(from.values);
    }
    model.operators = std::move(kept);
}

Model parse(const Bytes& bytes)
{
    const Table root = Table::root(bytes);
    std::vector<int> codes;
    for (const Table& c : root.tables(1))
        codes.push_back(std::max<int>(c.number<std::int8_t>(0), c.number<std::int32_t>(3)));
    const auto buffers = root.tables(4);
    const auto graphs = root.tables(2);
    if (graphs.empty()) throw Damaged("it holds no network");
    const Table& graph = graphs.front();

    Model model;
    std::vector<Stored> stored;
    for (const Table& t : graph.tables(0)) {
        const auto type = t.number<std::int8_t>(1);
        if (type < 0 || type > 2) throw Damaged("it holds numbers of an unknown type");
        stored.push_back({t.integers<std::int32_t>(0), static_cast<Storage>(type),
                          buffers.at(t.number<std::uint32_t>(2)).blob(0), t.table(6)});
        model.tensors.push_back({t.text(3), stored.back().shape, {}});
        product(stored.back().shape);
    }
    for (const Table& p : graph.tables(3)) {
        const Op op = static_cast<Op>(codes.at(p.number<std::uint32_t>(0)));
        model.operators.push_back(
            {op, p.integers<std::int32_t>(1), p.integers<std::int32_t>(2), optionsOf(op, p.table(4))});
    }
    model.inputs = graph.integers<std::int32_t>(1);
    model.outputs = graph.integers<std::int32_t>(2);
    if (model.inputs.size() != 1) throw Damaged("it does not have exactly one input");
    resolveConstants(model, stored);
    return model;
}

} // namespace

std::size_t Tensor::count() const
{
    return product(shape);
}

Result<Model> read(const std::string& path)
{
    const std::string remedy = "Run ./lantern build again to fetch the networks anew.";
    std::ifstream file(path, std::ios::binary);
    if (!file) return Error{Error::Kind::BadInput, "the network file is missing", path, remedy};
    const Bytes bytes((std::istreambuf_iterator<char>(file)), {});
    if (bytes.size() < 8 || std::memcmp(bytes.data() + 4, "TFL3", 4) != 0)
        return Error{Error::Kind::BadInput, "this is not a network file", path, remedy};
    try {
        return parse(bytes);
    } catch (const std::exception& e) { // Damaged, or std::out_of_range from an index that leads nowhere
        return Error{Error::Kind::BadInput, std::string("the network file is damaged: ") + e.what(), path,
                     remedy};
    }
}

} // namespace jl::tflite
