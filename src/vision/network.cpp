#include "vision/network.h"
#include "vision/tflite_file.h"
#include <algorithm>
#include <array>
#include <limits>
#include <map>
#include <set>
#include <stdexcept>
#include <xnnpack.h>

namespace jl
{
namespace
{

using tflite::Op;
using tflite::Operator;

void check(xnn_status status, const char* step)
{
    if (status != xnn_status_success)
        throw std::runtime_error(std::string(step) + " failed (" + std::to_string(static_cast<int>(status)) +
                                 ")");
}

std::pair<float, float> range(tflite::Activation a)
{
    constexpr float inf = std::numeric_limits<float>::infinity();
    switch (a) {
    case tflite::Activation::None:
        return {-inf, inf};
    case tflite::Activation::Relu:
        return {0.f, inf};
    case tflite::Activation::Relu6:
        return {0.f, 6.f};
    }
    throw std::runtime_error("unknown activation");
}

struct Deleter {
    void operator()(xnn_subgraph* p) const { xnn_delete_subgraph(p); }
    void operator()(xnn_runtime* p) const { xnn_delete_runtime(p); }
};

/// Where a computed tensor lands in an output buffer.
struct Part {
    int tensor;
    std::size_t output;
    std::size_t offset;
};

/// Translates a model into an XNNPACK subgraph.
class GraphBuilder
{
public:
    GraphBuilder(const tflite::Model& model, std::vector<Network::Output>& outputs)
        : m_model(model), m_outputs(outputs)
    {
        for (std::size_t k = 0; k < model.operators.size(); ++k)
            for (int t : model.operators[k].outputs)
                m_producer[t] = &model.operators[k];
    }

    std::unique_ptr<xnn_subgraph, Deleter> build(const std::vector<std::string>& wanted)
    {
        chooseOutputs(wanted);
        const auto kept = neededOperators();
        xnn_subgraph_t raw = nullptr;
        check(xnn_create_subgraph(static_cast<std::uint32_t>(1 + m_parts.size()), 0, &raw), "subgraph");
        std::unique_ptr<xnn_subgraph, Deleter> graph(raw);
        m_graph = raw;
        foldPadding(kept);
        for (const Operator* op : kept)
            define(*op);
        return graph;
    }

    const std::vector<Part>& parts() const { return m_parts; }

private:
    const tflite::Tensor& tensor(int t) const { return m_model.tensors.at(t); }
    const Operator* producer(int t) const
    {
        const auto found = m_producer.find(t);
        return found == m_producer.end() ? nullptr : found->second;
    }

    void chooseOutputs(const std::vector<std::string>& wanted)
    {
        for (const std::string& name : wanted) {
            const auto t = std::find_if(m_model.outputs.begin(), m_model.outputs.end(),
                                        [&](int o) { return tensor(o).name == name; });
            if (t == m_model.outputs.end()) throw std::runtime_error("it has no output " + name);
            m_outputs.push_back({name, tensor(*t).shape,
                                 std::vector<float>(tensor(*t).count() + XNN_EXTRA_BYTES / sizeof(float))});
            place(*t, m_outputs.size() - 1, 0);
        }
    }

    /// A reshape before an output is only another name for the same numbers, and a concatenation of
    /// single-batch tensors only puts them side by side: both become offsets into the output buffer.
    void place(int t, std::size_t output, std::size_t offset)
    {
        const Operator* p = producer(t);
        if (p && p->op == Op::Reshape) return place(p->inputs.at(0), output, offset);
        if (p && p->op == Op::Concatenation) {
            const auto& shape = tensor(t).shape;
            const int axis =
                p->options.axis < 0 ? p->options.axis + static_cast<int>(shape.size()) : p->options.axis;
            for (int d = 0; d < axis; ++d)
                if (shape.at(d) != 1) throw std::runtime_error("an unsupported concatenation");
            for (int part : p->inputs) {
                place(part, output, offset);
                offset += tensor(part).count();
            }
            return;
        }
        m_parts.push_back({t, output, offset});
    }

    std::vector<const Operator*> neededOperators() const
    {
        std::set<int> needed;
        for (const Part& p : m_parts)
            needed.insert(p.tensor);
        std::vector<const Operator*> kept;
        for (auto op = m_model.operators.rbegin(); op != m_model.operators.rend(); ++op) {
            if (std::none_of(op->outputs.begin(), op->outputs.end(),
                             [&](int t) { return needed.count(t) != 0; }))
                continue;
            kept.push_back(&*op);
            needed.insert(op->inputs.begin(), op->inputs.end());
        }
        std::reverse(kept.begin(), kept.end());
        return kept;
    }

    std::array<std::uint32_t, 8> paddingOf(const Operator& pad) const
    {
        const auto& values = tensor(pad.inputs.at(1)).values;
        if (values.size() != 8) throw std::runtime_error("an unsupported padding");
        std::array<std::uint32_t, 8> out{};
        std::transform(values.begin(), values.end(), out.begin(),
                       [](float f) { return static_cast<std::uint32_t>(f); });
        return out;
    }

    /// A purely spatial padding that only feeds unpadded convolutions is done by those convolutions
    /// themselves.
    void foldPadding(const std::vector<const Operator*>& kept)
    {
        for (const Operator* op : kept) {
            if (op->op != Op::Pad) continue;
            const auto v = paddingOf(*op);
            bool foldable = !v[0] && !v[1] && !v[6] && !v[7];
            for (const Operator* user : kept) {
                if (!std::count(user->inputs.begin(), user->inputs.end(), op->outputs.at(0))) continue;
                const bool convolution = user->op == Op::Conv2d || user->op == Op::DepthwiseConv2d;
                foldable = foldable && convolution && !user->options.samePadding;
            }
            if (foldable) m_folded.insert(op->outputs.at(0));
        }
    }

    std::uint32_t value(int t)
    {
        if (const auto known = m_ids.find(t); known != m_ids.end()) return known->second;
        const tflite::Tensor& x = tensor(t);
        const std::vector<std::size_t> dims(x.shape.begin(), x.shape.end());
        std::uint32_t external = XNN_INVALID_VALUE_ID, flags = 0, id = 0;
        if (t == m_model.inputs.front()) {
            external = 0;
            flags = XNN_VALUE_FLAG_EXTERNAL_INPUT;
        }
        for (std::size_t i = 0; i < m_parts.size(); ++i) {
            if (m_parts[i].tensor != t) continue;
            external = static_cast<std::uint32_t>(1 + i);
            flags = XNN_VALUE_FLAG_EXTERNAL_OUTPUT;
        }
        check(xnn_define_tensor_value(m_graph, xnn_datatype_fp32, dims.size(), dims.data(),
                                      x.values.empty() ? nullptr : x.values.data(), external, flags, &id),
              "tensor");
        return m_ids[t] = id;
    }

    void defineConvolution(const Operator& op)
    {
        const bool depthwise = op.op == Op::DepthwiseConv2d;
        const auto& o = op.options;
        const auto [low, high] = range(o.activation);
        int source = op.inputs.at(0);
        std::uint32_t top = 0, bottom = 0, left = 0, right = 0;
        if (m_folded.count(source)) {
            const Operator& pad = *producer(source);
            const auto v = paddingOf(pad);
            top = v[2], bottom = v[3], left = v[4], right = v[5];
            source = pad.inputs.at(0);
        }
        const auto& x = tensor(source).shape;
        const auto& w = tensor(op.inputs.at(1)).shape;
        const auto& y = tensor(op.outputs.at(0)).shape;
        const std::uint32_t flags = o.samePadding ? XNN_FLAG_TENSORFLOW_SAME_PADDING : 0;
        const std::uint32_t in = value(source), weights = value(op.inputs.at(1)),
                            bias = value(op.inputs.at(2)), out = value(op.outputs.at(0));
        if (depthwise)
            check(xnn_define_depthwise_convolution_2d(m_graph, top, right, bottom, left, w.at(1), w.at(2),
                                                      o.strideHeight, o.strideWidth, o.dilationHeight,
                                                      o.dilationWidth, y.at(3) / x.at(3), x.at(3), low, high,
                                                      in, weights, bias, out, flags),
                  "depthwise convolution");
        else
            check(xnn_define_convolution_2d(m_graph, top, right, bottom, left, w.at(1), w.at(2),
                                            o.strideHeight, o.strideWidth, o.dilationHeight, o.dilationWidth,
                                            1, x.at(3), y.at(3), low, high, in, weights, bias, out, flags),
                  "convolution");
    }

    void define(const Operator& op)
    {
        const auto& o = op.options;
        const int x = op.inputs.at(0), y = op.outputs.at(0);
        switch (op.op) {
        case Op::Conv2d:
        case Op::DepthwiseConv2d:
            return defineConvolution(op);
        case Op::Add: {
            const auto [low, high] = range(o.activation);
            return check(xnn_define_add2(m_graph, low, high, value(x), value(op.inputs.at(1)), value(y), 0),
                         "sum");
        }
        case Op::Pad: {
            if (m_folded.count(y)) return;
            const auto v = paddingOf(op);
            const std::size_t before[4] = {v[0], v[2], v[4], v[6]}, after[4] = {v[1], v[3], v[5], v[7]};
            return check(xnn_define_static_constant_pad(m_graph, before, after, 0.f, value(x), value(y), 0),
                         "padding");
        }
        case Op::ResizeBilinear: {
            const std::uint32_t flags = o.alignCorners       ? XNN_FLAG_ALIGN_CORNERS
                                        : o.halfPixelCentres ? 0
                                                             : XNN_FLAG_TENSORFLOW_LEGACY_MODE;
            const auto& shape = tensor(y).shape;
            return check(xnn_define_static_resize_bilinear_2d(m_graph, shape.at(1), shape.at(2), value(x),
                                                              value(y), flags),
                         "resize");
        }
        case Op::MaxPool2d: {
            const auto [low, high] = range(o.activation);
            const std::uint32_t flags = o.samePadding ? XNN_FLAG_TENSORFLOW_SAME_PADDING : 0;
            return check(xnn_define_max_pooling_2d(m_graph, 0, 0, 0, 0, o.filterHeight, o.filterWidth,
                                                   o.strideHeight, o.strideWidth, 1, 1, low, high, value(x),
                                                   value(y), flags),
                         "pooling");
        }
        case Op::Logistic:
            return check(xnn_define_sigmoid(m_graph, value(x), value(y), 0), "sigmoid");
        case Op::DepthToSpace:
            return check(xnn_define_depth_to_space(m_graph, value(x), value(y), o.blockSize, 0),
                         "depth to space");
        case Op::Reshape: {
            const std::vector<std::size_t> shape(tensor(y).shape.begin(), tensor(y).shape.end());
            return check(
                xnn_define_static_reshape(m_graph, shape.size(), shape.data(), value(x), value(y), 0),
                "reshape");
        }
        default:
            throw std::runtime_error("it uses an unknown operator " +
                                     std::to_string(static_cast<int>(op.op)));
        }
    }

    const tflite::Model& m_model;
    std::vector<Network::Output>& m_outputs;
    std::map<int, const Operator*> m_producer;
    std::vector<Part> m_parts;
    std::set<int> m_folded;
    std::map<int, std::uint32_t> m_ids;
    xnn_subgraph_t m_graph = nullptr;
};

/// XNNPACK packs the weights of convolutions into memory of its own when the runtime is made; keeping ours
/// would hold every network twice.
void dropPackedWeights(tflite::Model& model)
{
    std::set<int> packed, used;
    for (const Operator& op : model.operators) {
        const bool convolution = op.op == Op::Conv2d || op.op == Op::DepthwiseConv2d;
        for (std::size_t i = 0; i < op.inputs.size(); ++i)
            (convolution && i > 0 ? packed : used).insert(op.inputs[i]);
    }
    for (int t : packed)
        if (!used.contains(t)) std::vector<float>().swap(model.tensors.at(t).values);
}

} // namespace

struct Network::State {
    tflite::Model model; ///< constants of sums and paddings must live as long as the runtime
    std::vector<float> input;
    std::vector<Output> outputs;
    std::unique_ptr<xnn_runtime, Deleter> runtime;
};

Result<Network> Network::load(const std::string& path, const std::vector<std::string>& outputs)
{
    auto model = tflite::read(path);
    if (!model) return model.error();
    auto s = std::make_unique<State>();
    s->model = std::move(*model);
    try {
        check(xnn_initialize(nullptr), "start of XNNPACK");
        GraphBuilder builder(s->model, s->outputs);
        const auto graph = builder.build(outputs);
        xnn_runtime_t runtime = nullptr;
        check(xnn_create_runtime_v2(graph.get(), nullptr, 0, &runtime), "runtime");
        s->runtime.reset(runtime);
        s->input.assign(
            s->model.tensors.at(s->model.inputs.front()).count() + XNN_EXTRA_BYTES / sizeof(float), 0.f);
        std::vector<xnn_external_value> buffers{{0, s->input.data()}};
        for (std::size_t i = 0; i < builder.parts().size(); ++i) {
            const Part& p = builder.parts()[i];
            buffers.push_back(
                {static_cast<std::uint32_t>(1 + i), s->outputs[p.output].values.data() + p.offset});
        }
        check(xnn_setup_runtime(runtime, buffers.size(), buffers.data()), "set-up");
        dropPackedWeights(s->model);
    } catch (const std::exception& e) {
        return Error{Error::Kind::BadInput, std::string("the network cannot be built: ") + e.what(), path,
                     "Run ./lantern build again to fetch the networks anew."};
    }
    return Network(std::move(s));
}

Network::Network(std::unique_ptr<State> state) : m_state(std::move(state)) {}
Network::Network(Network&&) noexcept = default;
Network& Network::operator=(Network&&) noexcept = default;
Network::~Network() = default;

float* Network::input()
{
    return m_state->input.data();
}

const std::vector<int>& Network::inputShape() const
{
    return m_state->model.tensors[m_state->model.inputs.front()].shape;
}

void Network::run()
{
    check(xnn_invoke_runtime(m_state->runtime.get()), "run");
}

const Network::Output& Network::output(const std::string& name) const
{
    const auto found = std::find_if(m_state->outputs.begin(), m_state->outputs.end(),
                                    [&](const Output& o) { return o.name == name; });
    if (found == m_state->outputs.end()) throw std::logic_error("output " + name + " was not asked for");
    return *found;
}

} // namespace jl
