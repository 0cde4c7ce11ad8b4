#pragma once
// The picture that is worked with: brought in, looked at, made an instrument, read.
//
// Sheet and sources column talk to it; it makes new Parts. What was found but not yet taken lives here alone.

#include <QObject>
#include <QTransform>
#include <map>
#include <memory>
#include <optional>
#include <set>

#include "app/document.h"
#include "app/pictures/picture_image.h"
#include "app/view_state.h"
#include "core/picture/find.h"
#include "core/picture/take.h"

namespace punch {

class PictureWork : public QObject {
    Q_OBJECT
public:
    enum class Tool { None, KnownLength, Read };

    PictureWork(Document& document, ViewState& view, QObject* parent = nullptr);

    /// The chosen picture; null when the part has none. One without a file that can be opened has no image.
    const Source* source() const;
    const PictureImage* image() const;
    /// Of any picture of the part.
    const PictureImage* imageOf(const std::string& source) const;
    void choose(const std::string& source);
    /// Why the chosen picture cannot be shown; empty when it can.
    QString trouble() const { return trouble_; }

    /// Keeps the file with the part and chooses it. Errors: the part has no file, no picture, the folder is closed.
    Result<void> bringIn(const QString& file);
    void remove();

    /// Changing a face that was said before takes out the places that were read with it.
    void setFace(PictureFace face);
    void setOpacity(double opacity);
    double opacity() const { return opacity_; }

    /// Pixels of the picture to mm from the origin of the first formation.
    QTransform toPart() const;
    /// The picture's outline on the part, mm from the datum.
    Rect outline() const;

    Tool tool() const { return tool_; }
    void setTool(Tool tool);
    /// The ends of the known length that is being named: none, one or two.
    const std::vector<PixelPoint>& ends() const { return ends_; }
    /// Takes the length between the two ends. Errors: as withKnownLength.
    Result<void> giveLength(const QString& typed);
    /// Takes a ruler that was found.
    void takeRuler();
    bool offersRuler() const;

    const std::optional<Found>& found() const { return found_; }
    /// What was dropped and can be brought back.
    const std::vector<FoundFeature>& dropped() const { return dropped_; }
    std::size_t pinOne() const { return pinOne_; }
    Result<void> find();
    void drop(std::size_t index);
    void bringBack(std::size_t dropped);
    void setPinOne(std::size_t index);
    Result<void> take();

    /// A click on the picture; true when it meant something.
    bool clickAt(PixelPoint at, bool shift);
    /// Moves what was read or placed last.
    void nudge(double dx, double dy);
    /// Found feature under a place; -1 for none.
    int foundAt(PixelPoint at) const;

    /// Words about scale and turn, for the column.
    QString scaleWords() const;
    QString levelWords() const;

signals:
    void changed();
    void lengthWanted();  ///< both ends are there: type how far apart they are

private:
    void onPart();
    double parameter(const char* name, double otherwise) const;
    /// Drops what was found but not taken, and the tool in hand.
    void forget();
    Document& document_;
    ViewState& view_;
    std::string chosen_;
    mutable std::map<std::string, std::shared_ptr<PictureImage>> images_;  ///< by file
    mutable QString trouble_;
    double opacity_ = 1.0;
    Tool tool_ = Tool::None;
    std::vector<PixelPoint> ends_;
    std::optional<Found> found_;
    std::vector<FoundFeature> dropped_;
    std::size_t pinOne_ = 0;
    FeatureId lastRead_;
    int begun_ = 0;  ///< of the part that the rest belongs to
};

}  // namespace punch
