#pragma once
#include <QUndoCommand>
#include <functional>

namespace jl
{

/// A change from one value to another that is saved as it is made and can be taken back.
template <class T>
class ChangeCommand : public QUndoCommand
{
public:
    ChangeCommand(const QString& what, T before, T after, std::function<void(const T&)> apply)
        : QUndoCommand(what), m_before(std::move(before)), m_after(std::move(after)),
          m_apply(std::move(apply))
    {
    }
    void undo() override { m_apply(m_before); }
    void redo() override { m_apply(m_after); }

private:
    T m_before, m_after;
    std::function<void(const T&)> m_apply;
};

} // namespace jl
