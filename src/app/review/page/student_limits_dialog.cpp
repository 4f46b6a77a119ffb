#include "app/review/page/student_limits_dialog.h"
#include <QCheckBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>

namespace jl
{

StudentLimitsDialog::StudentLimitsDialog(const StudentRow& s, const Theme& theme, QWidget* parent)
    : QDialog(parent), m_student(s)
{
    setWindowTitle(tr("Limits of %1").arg(s.name));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(12);
    auto* about = new QLabel(
        tr("What you set here caps what is asked of %1, whatever school or reference say. Gentler variants "
           "take the place of what is left out.")
            .arg(s.name),
        this);
    about->setWordWrap(true);
    QPalette palette = about->palette();
    palette.setColor(QPalette::WindowText, theme.quiet);
    about->setPalette(palette);
    layout->addWidget(about);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    const auto box = [&](const QString& text, bool on, const char* name) {
        auto* b = new QCheckBox(text, this);
        b->setChecked(on);
        b->setObjectName(name);
        return b;
    };
    const StudentLimits& l = s.bodyLimits;
    m_knee = box(tr("Knees bend at most"), l.kneeFlexion.has_value(), "limits.knee");
    m_kneeDegrees = degrees("limits.knee.degrees", 20, 150, 60, l.kneeFlexion, m_knee);
    form->addRow(m_knee, m_kneeDegrees);
    m_square = box(tr("Hips need only come within"), l.squareWithin.has_value(), "limits.square");
    m_squareDegrees = degrees("limits.square.degrees", 5, 90, 25, l.squareWithin, m_square);
    m_squareDegrees->setSuffix(tr("° of square"));
    form->addRow(m_square, m_squareDegrees);
    m_kicks = box(tr("Toe touch instead of a kick"), !l.kicks, "limits.kicks");
    m_low = box(tr("High stance instead of a low one"), !l.lowStances, "limits.low");
    m_jumps = box(tr("No jumps"), !l.jumps, "limits.jumps");
    m_unsteady = box(tr("Must not fall: balance is a matter of safety"), !l.steady, "limits.unsteady");
    for (QCheckBox* b : {m_kicks, m_low, m_jumps, m_unsteady})
        form->addRow(b);
    m_words = new QLineEdit(s.limits, this);
    m_words->setObjectName("limits.words");
    m_words->setAccessibleName(tr("Note on the limits"));
    m_words->setPlaceholderText(tr("such as: left knee, no deep sitting"));
    form->addRow(tr("Note"), m_words);
    layout->addLayout(form);
    auto* buttons = new QDialogButtonBox(this);
    buttons->addButton(tr("Keep"), QDialogButtonBox::AcceptRole)->setObjectName("limits.keep");
    buttons->addButton(tr("Leave as it was"), QDialogButtonBox::RejectRole);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
}

QSpinBox* StudentLimitsDialog::degrees(const char* name, int least, int most, int usual,
                                       const std::optional<double>& value, QCheckBox* on)
{
    auto* spin = new QSpinBox(this);
    spin->setRange(least, most);
    spin->setSuffix(tr("°"));
    spin->setObjectName(name);
    spin->setAccessibleName(on->text());
    spin->setValue(value ? static_cast<int>(std::lround(*value)) : usual);
    spin->setEnabled(on->isChecked());
    connect(on, &QCheckBox::toggled, spin, &QSpinBox::setEnabled);
    return spin;
}

StudentRow StudentLimitsDialog::student() const
{
    StudentRow s = m_student;
    s.limits = m_words->text().trimmed();
    s.bodyLimits = {m_knee->isChecked() ? std::optional<double>(m_kneeDegrees->value()) : std::nullopt,
                    m_square->isChecked() ? std::optional<double>(m_squareDegrees->value()) : std::nullopt,
                    !m_kicks->isChecked(),
                    !m_low->isChecked(),
                    !m_jumps->isChecked(),
                    !m_unsteady->isChecked()};
    return s;
}

QString limitsSummary(const StudentRow& s)
{
    const StudentLimits& l = s.bodyLimits;
    QStringList parts;
    if (l.kneeFlexion) parts << StudentLimitsDialog::tr("knees to %1°").arg(std::lround(*l.kneeFlexion));
    if (l.squareWithin) parts << StudentLimitsDialog::tr("hips within %1°").arg(std::lround(*l.squareWithin));
    if (!l.kicks) parts << StudentLimitsDialog::tr("no kicks");
    if (!l.lowStances) parts << StudentLimitsDialog::tr("high stances");
    if (!l.jumps) parts << StudentLimitsDialog::tr("no jumps");
    if (!l.steady) parts << StudentLimitsDialog::tr("must not fall");
    if (parts.empty() && !s.limits.isEmpty()) return s.limits;
    return parts.empty() ? StudentLimitsDialog::tr("no limits") : parts.join(" · ");
}

} // namespace jl
