#pragma once
#include "base/result.h"
#include <memory>
#include <string>
#include <vector>

namespace jl
{

/// A neural network ready to run with XNNPACK in the calling thread. One object is used by one thread at a
/// time; different objects may run at once. XNNPACK's own thread pool is not used: it spins, and stalls on a
/// busy machine.
class Network
{
public:
    struct Output {
        std::string name;
        std::vector<int> shape;
        std::vector<float> values; ///< with slack behind the end that XNNPACK may touch
    };

    /// Reads a .tflite file and builds only what the named outputs need.
    static Result<Network> load(const std::string& path, const std::vector<std::string>& outputs);
    Network(Network&&) noexcept;
    Network& operator=(Network&&) noexcept;
    ~Network();

    float* input(); ///< NHWC, to be filled before run()
    const std::vector<int>& inputShape() const;
    void run();
    const Output& output(const std::string& name) const;

private:
    struct State;
    explicit Network(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

} // namespace jl
