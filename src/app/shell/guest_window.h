#pragma once
#include "app/jobs/bundle_intake.h"
#include "app/shell/context.h"
#include <QTemporaryDir>
#include <QWidget>

class QLabel;
class QPushButton;

namespace jl
{

class MessageBar;
class ReviewPage;

/// The review of another instructor's bundle, read-only, in a library of its own that goes with the window;
/// and the way to take it over into one's own.
class GuestWindow : public QWidget
{
    Q_OBJECT

public:
    /// Opens a bundle's window; an error where its library cannot be made. `context` is that of one's own
    /// library.
    static Result<GuestWindow*> open(UnpackedBundle unpacked, std::unique_ptr<QTemporaryDir> folder,
                                     const Context& context);
    ~GuestWindow() override;

    ReviewPage& review() { return *m_review; }

signals:
    /// The review is in one's own library now, as this clip.
    void takenOver(qint64 clip);

private:
    GuestWindow(UnpackedBundle unpacked, std::unique_ptr<QTemporaryDir> folder,
                std::unique_ptr<Library> library, const Context& context);
    QWidget* buildBanner();
    void compare();
    void takeOver();

    const UnpackedBundle m_unpacked;
    const std::unique_ptr<QTemporaryDir> m_folder;
    const std::unique_ptr<Library> m_library;
    Context m_own;
    ReviewPage* m_review = nullptr;
    MessageBar* m_message = nullptr;
    QLabel* m_about = nullptr;
    QPushButton* m_take = nullptr;
};

/// Unpacks a bundle in the background and opens its window; what keeps it from opening is said by `say`.
void openBundle(const QString& file, const Context& context, QWidget* owner,
                const std::function<void(GuestWindow*)>& opened,
                const std::function<void(const QString&)>& say);

} // namespace jl
