#include "app/shell/main_window.h"
#include "app/desk/desk_page.h"
#include "app/review/page/review_page.h"
#include "app/review/paint/words.h"
#include "app/shell/guest_window.h"
#include "app/shell/message_bar.h"
#include "app/shell/window_keys.h"
#include "app/theme/icon.h"
#include <QAbstractButton>
#include <QFileInfo>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QPainter>
#include <QScreen>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

namespace jl
{
namespace
{

/// A place in the rail: icon above its name.
class RailButton : public QAbstractButton
{
public:
    RailButton(const QString& name, const QString& picture, const QKeySequence& keys, const Theme& theme,
               QWidget* parent)
        : QAbstractButton(parent), m_theme(theme), m_icon(jl::icon(picture, theme.railText))
    {
        setText(name);
        setCheckable(true);
        setAutoExclusive(true);
        setFixedSize(56, 58);
        setShortcut(keys);
        setAccessibleName(name);
        setToolTip(name + " (" + keys.toString(QKeySequence::NativeText) + ")");
        setCursor(Qt::PointingHandCursor);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        if (isChecked() || underMouse()) {
            p.setPen(Qt::NoPen);
            p.setBrush(m_theme.railChosen);
            p.drawRoundedRect(rect(), 8, 8);
        }
        if (hasFocus()) {
            p.setPen(QPen(m_theme.railText, 1));
            p.setBrush(Qt::NoBrush);
            p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
        }
        p.drawPixmap((width() - 22) / 2, 8, m_icon.pixmap(22, 22));
        p.setPen(m_theme.railText);
        p.setFont(textFont(0.9, isChecked() ? QFont::DemiBold : QFont::Normal));
        p.drawText(QRectF(0, 32, width(), 22), Qt::AlignCenter, text());
    }

private:
    const Theme& m_theme;
    QIcon m_icon;
};

/// The sign of the house: a paper lantern.
class LanternSign : public QWidget
{
public:
    LanternSign(const Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme)
    {
        setFixedSize(56, 48);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(Qt::NoPen);
        p.setBrush(m_theme.lantern);
        p.drawEllipse(QRectF(17, 9, 22, 27));
        p.setBrush(m_theme.railText);
        p.drawRoundedRect(QRectF(22, 6, 12, 4), 2, 2);
        p.drawRoundedRect(QRectF(22, 35, 12, 4), 2, 2);
        p.setPen(QPen(m_theme.rail, 1.2));
        p.setBrush(Qt::NoBrush);
        p.drawArc(QRectF(23, 9, 10, 27), 0, 360 * 16);
        p.drawLine(QPointF(28, 10), QPointF(28, 35));
    }

private:
    const Theme& m_theme;
};

} // namespace

MainWindow::MainWindow(const Context& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_intake(context.library, context.queue)
{
    setWindowTitle(tr("Jolly Lantern"));
    setMinimumSize(1180, 720);
    fitScreen();
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(buildRail());
    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    m_message = new MessageBar(context.theme, this);
    right->addWidget(m_message);
    m_stack = new QStackedWidget(this);
    m_desk = new DeskPage(context, m_intake, m_stack);
    m_review = new ReviewPage(context, m_stack);
    m_stack->addWidget(m_desk);
    m_stack->addWidget(m_review);
    right->addWidget(m_stack, 1);
    layout->addLayout(right, 1);
    connect(m_desk, &DeskPage::openRequested, this, &MainWindow::openReview);
    connect(m_desk, &DeskPage::lookRequested, this, [this](qint64 clip) {
        m_review->openToLook(clip);
        go(Review);
    });
    connect(m_desk, &DeskPage::filesBrought, this, &MainWindow::bringIn);
    connect(&m_intake, &ClipIntake::message, this, &MainWindow::showMessage);
    connect(m_review, &ReviewPage::message, this, &MainWindow::showMessage);
    connect(m_review, &ReviewPage::opened, this,
            [this](qint64 clip) { m_context.library.setSetting("open.clip", QString::number(clip)); });
    context.library.setReporter(
        [this](const Error& error) { showMessage(QString::fromStdString(error.message())); });
    addWindowKeys(*this, context.theme);
    go(Desk);
}

MainWindow::~MainWindow()
{
    m_context.library.setReporter({}); // it may outlive the window
}

/// The usual size, with room for the frame of a window on a small screen.
void MainWindow::fitScreen()
{
    constexpr int frame =
        40; // pixels: a title bar and borders, which are not known before the window is shown
    const QSize free = screen() ? screen()->availableSize() : QSize(1280, 800);
    const bool framed = QGuiApplication::platformName() != "offscreen";
    resize(QSize(1280, 800).boundedTo(free - QSize(0, framed ? frame : 0)).expandedTo(minimumSize()));
}

QWidget* MainWindow::buildRail()
{
    auto* rail = new QWidget(this);
    rail->setFixedWidth(64);
    rail->setAutoFillBackground(true);
    QPalette palette = rail->palette();
    palette.setColor(QPalette::Window, m_context.theme.rail);
    rail->setPalette(palette);
    auto* column = new QVBoxLayout(rail);
    column->setContentsMargins(4, 4, 4, 8);
    column->setSpacing(6);
    column->addWidget(new LanternSign(m_context.theme, rail));
    const struct {
        QString name, picture, keys;
    } places[] = {{tr("Desk"), "lamp-desk", "Ctrl+1"}, {tr("Review"), "footprints", "Ctrl+2"}};
    int index = 0;
    for (const auto& p : places) {
        auto* button = new RailButton(p.name, p.picture, QKeySequence(p.keys), m_context.theme, rail);
        button->setObjectName("rail." + p.name.toLower());
        connect(button, &QAbstractButton::clicked, this, [this, index] { go(static_cast<Place>(index)); });
        column->addWidget(button);
        m_places.push_back(button);
        ++index;
    }
    column->addStretch(1);
    column->addWidget(buildLengthsButton(), 0, Qt::AlignHCenter);
    return rail;
}

/// Says what lengths are shown in, and changes it.
QWidget* MainWindow::buildLengthsButton()
{
    constexpr const char* setting = "lengths";
    auto* button = new QToolButton(this);
    button->setObjectName("rail.lengths");
    button->setAutoRaise(true);
    button->setFont(textFont(0.9));
    button->setFixedSize(48, 30);
    button->setCursor(Qt::PointingHandCursor);
    button->setStyleSheet(QString("QToolButton { color: %1; border: none; border-radius: 8px; }"
                                  "QToolButton:hover { background: %2; }"
                                  "QToolButton:focus { border: 1px solid %1; }")
                              .arg(m_context.theme.railText.name(), m_context.theme.railChosen.name()));
    const auto describe = [button] {
        const QKeySequence keys("Ctrl+U");
        const bool inches = shownLengths() == LengthUnit::Inches;
        button->setText(inches ? tr("in") : tr("cm")); // takes the shortcut away
        button->setShortcut(keys);
        button->setAccessibleName(inches ? tr("Lengths in inches") : tr("Lengths in centimetres"));
        button->setToolTip((inches ? tr("Lengths are shown in inches; click for centimetres")
                                   : tr("Lengths are shown in centimetres; click for inches")) +
                           " (" + keys.toString(QKeySequence::NativeText) + ")");
    };
    showLengthsIn(m_context.library.setting(setting) == "in" ? LengthUnit::Inches : LengthUnit::Centimetres);
    describe();
    connect(button, &QToolButton::clicked, this, [this, describe] {
        const bool inches = shownLengths() == LengthUnit::Centimetres;
        showLengthsIn(inches ? LengthUnit::Inches : LengthUnit::Centimetres);
        m_context.library.setSetting(setting, inches ? "in" : "cm");
        describe();
        m_review->refreshLengths();
    });
    return button;
}

void MainWindow::go(Place place)
{
    m_stack->setCurrentIndex(place);
    m_places[static_cast<std::size_t>(place)]->setChecked(true);
    m_context.library.setSetting("open.place", QString::number(place));
}

MainWindow::Place MainWindow::place() const
{
    return static_cast<Place>(m_stack->currentIndex());
}

void MainWindow::openReview(qint64 clip)
{
    const auto row = m_context.library.clip(clip);
    if (row && row->state == ClipState::Waiting && m_context.queue.contains(clip))
        return openWhenExtracted(clip);
    m_review->open(clip);
    go(Review);
}

/// A clip that was asked for while its body is still being extracted opens as soon as that is done.
void MainWindow::openWhenExtracted(qint64 clip)
{
    auto* once = new QObject(this);
    connect(
        &m_context.queue, &ExtractionQueue::extracted, once,
        [this, once, clip](qint64 done) {
            if (done != clip) return;
            once->deleteLater();
            openReview(clip);
        },
        Qt::QueuedConnection);
}

void MainWindow::showMessage(const QString& text)
{
    m_message->say(text);
}

/// Videos come into the library, bundles open in windows of their own.
void MainWindow::bringIn(const QStringList& files)
{
    QStringList videos;
    for (const QString& file : files) {
        if (!namesBundle(file.toStdString())) {
            videos << file;
            continue;
        }
        showMessage(tr("Opening %1…").arg(QFileInfo(file).fileName()));
        openBundle(
            file, m_context, this,
            [this](GuestWindow* window) {
                connect(window, &GuestWindow::takenOver, this, [this](qint64 clip) {
                    emit m_intake.changed();
                    openReview(clip);
                });
                connect(this, &QObject::destroyed, window, &QObject::deleteLater);
                m_message->hide();
                window->show();
            },
            [this](const QString& words) { showMessage(words); });
    }
    if (!videos.isEmpty()) m_intake.addFiles(videos);
}

void MainWindow::restore()
{
    const qint64 clip = m_context.library.setting("open.clip").toLongLong();
    const bool review = m_context.library.setting("open.place").toInt() == Review ||
                        !m_context.library.setting("open.clip").isEmpty();
    m_intake.resumeWaiting();
    if (clip && review && m_context.library.clip(clip)) return openReview(clip);
    if (!m_context.queue.idle()) openFirstReviewWhenDone();
}

void MainWindow::openFirstReviewWhenDone()
{
    auto* once = new QObject(this);
    connect(
        &m_context.queue, &ExtractionQueue::extracted, once,
        [this, once] {
            for (const ClipRow& clip : m_context.library.clips())
                if (clip.state == ClipState::Waiting && m_context.queue.contains(clip.id)) return;
            if (place() == Desk)
                for (const ClipRow& clip : m_context.library.clips())
                    if (clip.state == ClipState::Ready && !clip.reference) {
                        openReview(clip.id);
                        break;
                    }
            once->deleteLater();
        },
        Qt::QueuedConnection);
}

} // namespace jl
