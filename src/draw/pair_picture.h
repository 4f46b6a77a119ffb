#pragma once
#include "draw/body_shot.h"
#include "draw/slip_pictures.h"
#include "media/frame_walk.h"

namespace jl
{

/// How student and reference share a picture.
enum class PairLayout {
    Beside, ///< each in a panel of its own
    Over,   ///< the reference's outline over the student
};
enum class PairShape {
    Landscape, ///< 1280 x 720
    Portrait,  ///< 720 x 1280, for a phone
};

struct PairStyle {
    PairLayout layout = PairLayout::Beside;
    PairShape shape = PairShape::Landscape;
    bool breath = false; ///< the breath of the form below the words
};

/// A stretch of the student's clip that is shown, and what it is about.
struct PairPassage {
    Seconds from = 0, to = 0;      ///< s in the student's clip
    std::optional<Seconds> moment; ///< that it is about
    std::string title, cue;        ///< the words below the pictures
    ShotSubject subject;
};

/// One passage for each item of a slip: from the beginning of its phase, at most 2.5 s before its moment, to
/// 0.8 s after.
std::vector<PairPassage> passagesOf(const Slip& slip, const Review& review);
/// The whole of a posture of the review. An error where the clip does not show it.
Result<PairPassage> passageOf(const Review& review, std::size_t posture);

/// Student and reference at any time of a passage in one picture, in step whatever their tempo: cropped alike
/// over the whole passage, with the construction drawn and the words below. Times should rise. Needs a
/// QGuiApplication for its fonts.
class PairPicture
{
public:
    static QSize sizeOf(PairShape shape);

    /// An error where a video file cannot be opened.
    static Result<PairPicture> make(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
                                    PairPassage passage, const PairStyle& style, const Theme& theme);

    const PairPassage& passage() const { return m_passage; }

    /// The picture at a time of the student, RGB. An error where a video file cannot be decoded.
    Result<QImage> at(Seconds studentTime);

    /// When the two pictures shown last were filmed, s in their clips; of drawn bodies the wished time.
    struct Shown {
        Seconds student = 0, reference = 0;
    };
    Shown shown() const { return m_shown; }

private:
    /// One of the panels: what it shows and how.
    struct Panel {
        QRectF place;                   ///< in the picture
        QRectF crop;                    ///< of the body's pixels
        std::optional<FrameWalk> walk;  ///< none: drawn on paper
        int trackWidth = 1;             ///< of the body's pixels
        QImage image;                   ///< as shown last
        std::optional<Seconds> imageOf; ///< the time of its frame
    };
    PairPicture(std::shared_ptr<const ReviewScene> scene, PairPassage passage, const PairStyle& style,
                const Theme& theme);
    void placePanels();
    void cropPanels();
    BodyShot shotAt(bool reference, Seconds time) const;
    Result<Seconds> draw(Panel& panel, bool reference, Seconds time);
    void drawWords(QPainter& painter, Seconds studentTime) const;

    std::shared_ptr<const ReviewScene> m_scene;
    PairPassage m_passage;
    PairStyle m_style;
    const Theme* m_theme;
    Panel m_student, m_reference;
    QRectF m_words;
    Shown m_shown;
};

} // namespace jl
