#include "app/shell/guest_window.h"
#include "app/review/page/review_page.h"
#include "app/shell/message_bar.h"
#include "app/shell/window_keys.h"
#include "app/theme/label.h"
#include "exchange/review_file.h"
#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace jl
{

Result<GuestWindow*> GuestWindow::open(UnpackedBundle unpacked, std::unique_ptr<QTemporaryDir> folder,
                                       const Context& context)
{
    auto library = Library::open(folder->filePath("library"));
    if (!library) return library.error();
    const auto clip = jl::takeOver(**library, unpacked);
    if (!clip) return clip.error();
    auto* window = new GuestWindow(std::move(unpacked), std::move(folder), std::move(*library), context);
    window->m_review->open(*clip);
    return window;
}

GuestWindow::GuestWindow(UnpackedBundle unpacked, std::unique_ptr<QTemporaryDir> folder,
                         std::unique_ptr<Library> library, const Context& context)
    : m_unpacked(std::move(unpacked)), m_folder(std::move(folder)), m_library(std::move(library)),
      m_own(context)
{
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Review by another instructor"));
    setMinimumSize(1180, 720);
    resize(1280, 800);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(buildBanner());
    m_message = new MessageBar(context.theme, this);
    layout->addWidget(m_message);
    m_review = new ReviewPage({*m_library, context.data, context.theme, context.queue, true}, this);
    layout->addWidget(m_review, 1);
    addWindowKeys(*this, context.theme);
    connect(m_review, &ReviewPage::message, m_message, &MessageBar::say);
    connect(m_review, &ReviewPage::opened, this, &GuestWindow::compare);
}

GuestWindow::~GuestWindow()
{
    delete m_review; // before its library
}

QWidget* GuestWindow::buildBanner()
{
    auto* banner = new QWidget(this);
    banner->setAutoFillBackground(true);
    QPalette colours = banner->palette();
    colours.setColor(QPalette::Window, m_own.theme.band);
    banner->setPalette(colours);
    auto* row = new QHBoxLayout(banner);
    row->setContentsMargins(16, 6, 12, 6);
    QString words =
        tr("Another instructor's review of %1, %2. You can look at everything; nothing is changed.")
            .arg(QString::fromStdString(m_unpacked.bundle.studentName),
                 QString::fromStdString(dayWords(m_unpacked.bundle.made)));
    if (m_unpacked.bundle.videos.empty()) words += " " + tr("The bundle has no video: the bodies are drawn.");
    m_about = paragraph(words, 1.0, QFont::DemiBold, m_own.theme.ink, banner);
    m_about->setObjectName("guest.about");
    row->addWidget(m_about, 1);
    m_take = new QPushButton(tr("take it over into your library"), banner);
    m_take->setObjectName("guest.take");
    m_take->setProperty("accent", true);
    connect(m_take, &QPushButton::clicked, this, &GuestWindow::takeOver);
    row->addWidget(m_take);
    return banner;
}

/// Whether this program judges the tracks as the sender's did.
void GuestWindow::compare()
{
    const ReviewScene& scene = *m_review->playhead().scene();
    const auto sent = recordFromJson(m_unpacked.bundle.review, "the bundle");
    if (!sent) return m_message->say(QString::fromStdString(sent.error().message()));
    if (recordJson(recordOf(scene.review)) != recordJson(*sent))
        m_message->say(tr("This program judges the clip differently from the one that sent it: what you see "
                          "is its own review. The review as it was sent lies in the bundle."));
}

void GuestWindow::takeOver()
{
    const auto clip = jl::takeOver(m_own.library, m_unpacked);
    if (!clip) return m_message->say(QString::fromStdString(clip.error().message()));
    m_take->setEnabled(false);
    emit takenOver(*clip);
    close();
}

void openBundle(const QString& file, const Context& context, QWidget* owner,
                const std::function<void(GuestWindow*)>& opened,
                const std::function<void(const QString&)>& say)
{
    auto folder = std::make_shared<std::unique_ptr<QTemporaryDir>>(std::make_unique<QTemporaryDir>());
    using Outcome = std::shared_ptr<Result<UnpackedBundle>>;
    auto* watcher = new QFutureWatcher<Outcome>(owner);
    QObject::connect(watcher, &QFutureWatcher<Outcome>::finished, owner, [=] {
        watcher->deleteLater();
        const Outcome outcome = watcher->result();
        if (!*outcome) return say(QString::fromStdString(outcome->error().message()));
        const auto window = GuestWindow::open(std::move(**outcome), std::move(*folder), context);
        if (!window) return say(QString::fromStdString(window.error().message()));
        opened(*window);
    });
    watcher->setFuture(QtConcurrent::run([file, path = (*folder)->path()] {
        return std::make_shared<Result<UnpackedBundle>>(unpackBundle(file.toStdString(), path.toStdString()));
    }));
}

} // namespace jl
