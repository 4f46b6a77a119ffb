#pragma once
#include "base/result.h"
#include <cstdint>
#include <string>
#include <vector>

namespace jl::tflite
{

/// The operators our networks use, with the numbers of the published schema.
enum class Op {
    Add = 0,
    Concatenation = 2,
    Conv2d = 3,
    DepthwiseConv2d = 4,
    DepthToSpace = 5,
    Dequantize = 6,
    Logistic = 14,
    MaxPool2d = 17,
    Reshape = 22,
    ResizeBilinear = 23,
    Pad = 34,
    Densify = 124,
};

enum class Activation { None = 0, Relu = 1, Relu6 = 3 };

/// The options of all operators in one struct; each operator sets what it has.
struct OpOptions {
    bool samePadding = true; ///< SAME is the schema's default, so an absent field means SAME
    int strideWidth = 1, strideHeight = 1;
    int dilationWidth = 1, dilationHeight = 1;
    int filterWidth = 1, filterHeight = 1; ///< pooling
    Activation activation = Activation::None;
    int axis = 0;      ///< concatenation
    int blockSize = 1; ///< depth to space
    bool alignCorners = false, halfPixelCentres = false;
};

struct Operator {
    Op op;
    std::vector<int> inputs; ///< tensor indices
    std::vector<int> outputs;
    OpOptions options;
};

/// A tensor; constants carry their values, expanded to float whatever their storage (half, sparse, int).
struct Tensor {
    std::string name;
    std::vector<int> shape;
    std::vector<float> values; ///< empty unless constant

    std::size_t count() const;
};

/// A network as read from a .tflite file, with all constants resolved.
struct Model {
    std::vector<Tensor> tensors;
    std::vector<Operator> operators; ///< in order of execution, without constant preparation
    std::vector<int> inputs, outputs;
};

/// Reads a network. Every offset is checked: a damaged file gives an error, never a crash.
Result<Model> read(const std::string& path);

} // namespace jl::tflite
