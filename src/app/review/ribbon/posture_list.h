#pragma once
#include "app/review/model/playhead.h"
#include "app/theme/theme.h"
#include <QTreeWidget>

namespace jl
{

/// The postures as a list with their marks; the one under way shows its phases. A posture that was left out,
/// repeated or out of order says so. Choosing a row goes there.
class PostureList : public QTreeWidget
{
    Q_OBJECT

public:
    PostureList(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

private:
    void fill();
    void follow();
    void go(QTreeWidgetItem* item);

    Playhead& m_playhead;
    const Theme& m_theme;
    bool m_following = false; ///< while the list follows the playhead, it must not lead it
};

} // namespace jl
