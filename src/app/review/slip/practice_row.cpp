#include "app/review/slip/practice_row.h"
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPushButton>
#include <QSpinBox>

namespace jl
{

int practiceMinutes(const Library& library)
{
    constexpr int usual = 15;
    const int kept = library.setting("practice.minutes").toInt();
    return kept ? kept : usual;
}

PracticeRow::PracticeRow(Library& library, bool ready, QWidget* parent) : QWidget(parent)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    auto* minutes = new QSpinBox(this);
    minutes->setObjectName("slip.minutes");
    minutes->setAccessibleName(tr("Minutes of practice a day"));
    minutes->setRange(5, 60);
    minutes->setSuffix(tr(" min a day"));
    minutes->setValue(practiceMinutes(library));
    connect(minutes, &QSpinBox::valueChanged, this,
            [&library](int value) { library.setSetting("practice.minutes", QString::number(value)); });
    auto* save = new QPushButton(tr("save the week's practice…"), this);
    save->setObjectName("slip.plan");
    save->setEnabled(ready);
    save->setToolTip(ready ? tr("A calendar file with the accepted drills, day by day")
                           : tr("Accept a correction first"));
    connect(save, &QPushButton::clicked, this, [this, minutes] {
        const QString file = QFileDialog::getSaveFileName(this, tr("Save the week's practice"),
                                                          tr("practice.ics"), tr("Calendar (*.ics)"));
        if (!file.isEmpty()) emit saveWanted(file, minutes->value());
    });
    row->addWidget(minutes);
    row->addWidget(save);
    row->addStretch(1);
}

} // namespace jl
