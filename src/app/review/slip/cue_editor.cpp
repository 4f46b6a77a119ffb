#include "app/review/slip/cue_editor.h"
#include <QHBoxLayout>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{

CueEditor::CueEditor(const QString& cue, QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 2, 0, 2);
    auto* text = new QPlainTextEdit(cue, this);
    text->setObjectName("slip.cue");
    text->setAccessibleName(tr("Cue in your own words"));
    text->setTabChangesFocus(true);
    text->setFixedHeight(72);
    layout->addWidget(text);
    auto* row = new QHBoxLayout;
    auto* keep = new QPushButton(tr("keep these words"), this);
    keep->setObjectName("slip.cue.keep");
    auto* back = new QPushButton(tr("as proposed"), this);
    back->setObjectName("slip.cue.back");
    row->addWidget(keep);
    row->addWidget(back);
    row->addStretch(1);
    layout->addLayout(row);
    connect(keep, &QPushButton::clicked, this, [this, text] { emit kept(text->toPlainText().simplified()); });
    connect(back, &QPushButton::clicked, this, [this] { emit kept({}); });
    QMetaObject::invokeMethod(
        text, [text] { text->setFocus(); }, Qt::QueuedConnection);
}

} // namespace jl
