#include "app/review/slip/own_finding_dialog.h"
#include "app/theme/label.h"
#include <QCheckBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{

OwnFindingDialog::OwnFindingDialog(Seconds time, Measure measure, const Theme& theme, QWidget* parent)
    : QDialog(parent), m_time(time), m_measure(measure)
{
    setWindowTitle(tr("What you see"));
    setMinimumWidth(460);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(12);
    layout->addWidget(
        paragraph(tr("It is kept with this moment, goes on the slip, and is counted over lessons "
                     "by its heading."),
                  0.95, QFont::Normal, theme.quiet, this));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    m_title = new QLineEdit(this);
    m_title->setObjectName("own.title");
    m_title->setPlaceholderText(tr("such as: Wait for the breath"));
    form->addRow(tr("Heading"), m_title);
    m_cue = new QPlainTextEdit(this);
    m_cue->setObjectName("own.cue");
    m_cue->setTabChangesFocus(true);
    m_cue->setFixedHeight(72);
    form->addRow(tr("What to do"), m_cue);
    m_drill = new QLineEdit(this);
    m_drill->setObjectName("own.drill");
    form->addRow(tr("Drill"), m_drill);
    m_about =
        new QCheckBox(tr("It is about: %1")
                          .arg(QString::fromUtf8(measureInfo(measure).name.data(),
                                                 static_cast<qsizetype>(measureInfo(measure).name.size()))),
                      this);
    m_about->setObjectName("own.about");
    form->addRow(m_about);
    layout->addLayout(form);
    auto* buttons = new QDialogButtonBox(this);
    auto* keep = buttons->addButton(tr("Put it on the slip"), QDialogButtonBox::AcceptRole);
    keep->setObjectName("own.keep");
    keep->setEnabled(false);
    buttons->addButton(tr("Leave it"), QDialogButtonBox::RejectRole);
    connect(m_title, &QLineEdit::textChanged, keep,
            [keep](const QString& text) { keep->setEnabled(!text.trimmed().isEmpty()); });
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
}

OwnFinding OwnFindingDialog::finding() const
{
    return {m_time, m_title->text().simplified().toStdString(),
            m_cue->toPlainText().simplified().toStdString(), m_drill->text().simplified().toStdString(),
            m_about->isChecked() ? std::optional(m_measure) : std::nullopt};
}

} // namespace jl
