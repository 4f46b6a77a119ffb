#pragma once
#include <string>
#include <utility>
#include <variant>

namespace jl
{

/// What went wrong, for a person: what happened, where (file and place), and what to do about it.
struct Error {
    enum class Kind {
        WrongUse,     ///< the request itself makes no sense (exit code 2)
        BadInput,     ///< a file or value is damaged, missing or of the wrong sort (exit code 3)
        NothingFound, ///< the input is sound but holds nothing usable, e.g. no person (exit code 4)
        Cancelled,    ///< the user stopped it
    };
    Kind kind = Kind::BadInput;
    std::string what;
    std::string where;
    std::string remedy;

    /// One line: "where: what. remedy"
    std::string message() const;
    /// The exit code of the command line for this kind of error.
    int exitCode() const;
};

/// A value or the error that kept it from being made.
template <class T>
class [[nodiscard]] Result
{
public:
    Result(T value) : m_state(std::in_place_index<0>, std::move(value)) {}
    Result(Error error) : m_state(std::in_place_index<1>, std::move(error)) {}

    explicit operator bool() const { return m_state.index() == 0; }
    T& operator*() { return std::get<0>(m_state); }
    const T& operator*() const { return std::get<0>(m_state); }
    T* operator->() { return &std::get<0>(m_state); }
    const T* operator->() const { return &std::get<0>(m_state); }
    const Error& error() const { return std::get<1>(m_state); }

private:
    std::variant<T, Error> m_state;
};

/// Success without a value.
struct Done {
};

} // namespace jl
