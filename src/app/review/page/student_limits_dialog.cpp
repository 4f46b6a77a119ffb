#include "app/review/page/student_limits_dialog.h"
#include "base/day.h"
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
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
    m_kneeSide = new QComboBox(this);
    m_kneeSide->setObjectName("limits.knee.side");
    m_kneeSide->setAccessibleName(tr("Which knee"));
    m_kneeSide->addItems({tr("both knees"), tr("the left knee"), tr("the right knee")});
    m_kneeSide->setCurrentIndex(!l.kneeSide ? 0 : *l.kneeSide == Side::Left ? 1 : 2);
    m_kneeSide->setEnabled(m_knee->isChecked());
    connect(m_knee, &QCheckBox::toggled, m_kneeSide, &QComboBox::setEnabled);
    form->addRow(tr("which holds for"), m_kneeSide);
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
    m_ends = box(tr("All of this holds until"), l.until.has_value(), "limits.ends");
    m_until = new QDateEdit(this);
    m_until->setObjectName("limits.until");
    m_until->setAccessibleName(m_ends->text());
    m_until->setCalendarPopup(true);
    m_until->setDate(l.until ? QDate::fromString(QString::fromStdString(dayText(*l.until)), Qt::ISODate)
                             : QDate::currentDate().addMonths(3));
    m_until->setEnabled(m_ends->isChecked());
    connect(m_ends, &QCheckBox::toggled, m_until, &QDateEdit::setEnabled);
    form->addRow(m_ends, m_until);
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
                    !m_unsteady->isChecked(),
                    {},
                    {}};
    if (m_knee->isChecked() && m_kneeSide->currentIndex() > 0)
        s.bodyLimits.kneeSide = m_kneeSide->currentIndex() == 1 ? Side::Left : Side::Right;
    if (m_ends->isChecked())
        s.bodyLimits.until = dayFrom(m_until->date().toString(Qt::ISODate).toStdString());
    return s;
}

QString limitsSummary(const StudentRow& s)
{
    const StudentLimits& l = s.bodyLimits;
    QStringList parts;
    if (l.until && today() > *l.until)
        return StudentLimitsDialog::tr("limits ended on %1")
            .arg(QLocale().toString(QDate::fromString(QString::fromStdString(dayText(*l.until)), Qt::ISODate),
                                    QLocale::ShortFormat));
    if (l.kneeFlexion) {
        const QString knee = !l.kneeSide                 ? StudentLimitsDialog::tr("knees to %1°")
                             : *l.kneeSide == Side::Left ? StudentLimitsDialog::tr("left knee to %1°")
                                                         : StudentLimitsDialog::tr("right knee to %1°");
        parts << knee.arg(std::lround(*l.kneeFlexion));
    }
    if (l.squareWithin) parts << StudentLimitsDialog::tr("hips within %1°").arg(std::lround(*l.squareWithin));
    if (!l.kicks) parts << StudentLimitsDialog::tr("no kicks");
    if (!l.lowStances) parts << StudentLimitsDialog::tr("high stances");
    if (!l.jumps) parts << StudentLimitsDialog::tr("no jumps");
    if (!l.steady) parts << StudentLimitsDialog::tr("must not fall");
    if (parts.empty() && !s.limits.isEmpty()) return s.limits;
    return parts.empty() ? StudentLimitsDialog::tr("no limits") : parts.join(" · ");
}

} // namespace jl
