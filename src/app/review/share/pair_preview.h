#pragma once
#include "draw/pair_picture.h"
#include <QFutureWatcher>
#include <QLabel>

namespace jl
{

/// A look at a passage: its picture at its moment, made in the background. Where it cannot be made, it says
/// why.
class PairPreview : public QLabel
{
    Q_OBJECT

public:
    PairPreview(const QSize& size, QWidget* parent);
    ~PairPreview() override; ///< waits for the picture that is being made

    /// The newest wish counts.
    void show(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files, const PairPassage& passage,
              const PairStyle& style);
    /// Words in the place of a picture.
    void say(const QString& words);

private:
    using Outcome = std::shared_ptr<const Result<QImage>>;
    void make();
    void showPicture();

    std::function<Outcome()> m_wish; ///< empty: none that is newer than what is being made
    QFutureWatcher<Outcome> m_making;
    bool m_isWanted = false; ///< what is being made is to be shown
};

} // namespace jl
