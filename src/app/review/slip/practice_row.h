#pragma once
#include "library/library.h"
#include <QWidget>

namespace jl
{

/// Minutes of practice a day, as chosen last.
int practiceMinutes(const Library& library);

/// Minutes of practice a day, which the library keeps, and the button that saves the week.
class PracticeRow : public QWidget
{
    Q_OBJECT

public:
    /// `ready`: something is accepted to practise.
    PracticeRow(Library& library, bool ready, QWidget* parent = nullptr);

signals:
    void saveWanted(const QString& file, int minutes);
};

} // namespace jl
