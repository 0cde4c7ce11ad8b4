#pragma once
// The source that is worked with: brought in, looked at, made an instrument, read, compared.
//
// Sheet and sources column talk to it; it makes new Parts. What was found but not yet taken lives here alone.
// picture_work.cpp: which source, and where it lies; picture_finding.cpp: scale, finding, taking, comparing;
// picture_tools.cpp: what clicks on it mean; picture_drawing.cpp: numbers of drawings, places, the outline.

#include <QObject>
#include <QTimer>
#include <QTransform>
#include <algorithm>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>

#include "app/document.h"
#include "app/pictures/picture_image.h"
#include "app/view_state.h"
#include "core/drawing/dimension_text.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/snap_page.h"
#include "core/picture/compare.h"
#include "core/picture/find.h"
#include "core/picture/take.h"

namespace punch {

class PictureWork : public QObject {
    Q_OBJECT
public:
    /// What a click on the picture means.
    enum class Tool { None, KnownLength, Level, Read, Region, Square, Dimension, Outline };
    /// How a feature is read by hand.
    enum class How { Rim, RimPlaces, Edge, Corner, Place };

    PictureWork(Document& document, ViewState& view, QObject* parent = nullptr);

    // ------------------------------------------------------------------ which source

    /// The chosen source; null when the part has none. One without a file that can be opened has no image.
    const Source* source() const;
    /// What was found laid over the footprint, at the scale that the adjustment gave the picture.
    std::optional<Laid> laidOver() const;
    const PictureImage* image() const;
    /// Of any source of the part. Large files open beside the window: null until then.
    const PictureImage* imageOf(const std::string& source) const;
    void choose(const std::string& source);
    /// Why the chosen source cannot be shown, or that it is being opened; empty when it can.
    QString trouble() const;
    /// What goes on beside the window: "looking for pins…"; empty for nothing.
    QString busy() const { return busy_; }
    /// Waits until nothing goes on beside the window.
    void settle();

    /// Keeps the file with the part and chooses it. Errors: the part has no file, nothing that can be read, the folder
    /// is closed. Large files are opened beside the window first; what is wrong with them is said then.
    Result<void> bringIn(const QString& file, const EvidenceChoice& choice = {});
    void remove();

    /// Changing a face that was said before takes out the places that were read with it.
    void setFace(PictureFace face);
    /// A drawing's page is drawn at the size of the part.
    void setTrueSize(bool on) { setDrawnScale(on ? 1 : 0); }
    /// Doubt of how high what is seen stands above the glass.
    void setAbove(Length above);
    void setOpacity(double opacity);
    double opacity() const { return opacity_; }

    /// Pixels of the picture to mm from the origin of the first formation.
    QTransform toPart() const;
    /// The picture's outline on the part, mm from the datum.
    Rect outline() const;
    /// Did the adjustment place it: was anything read in it?
    bool joined() const;

    // ------------------------------------------------------------------ scale, finding, taking, comparing

    /// Takes the length between the two ends. Errors: as withKnownLength.
    Result<void> giveLength(const QString& typed);
    /// Takes a ruler that was found.
    void takeRuler();
    bool offersRuler() const;
    /// The next ruler that could be one counts instead; looks again.
    void nextRuler();
    /// The ruler that counts is none: its marks may be pins; looks again.
    void refuseRuler();
    /// Which of the witnesses of the scale counts; looks again.
    void chooseWitness(std::size_t witness);
    /// Scales that a page states in words.
    std::vector<StatedScale> scalesStatedHere() const;
    /// The page draws the part so many times as large; 0: that is not known.
    void setDrawnScale(double ratio);

    const std::optional<Found>& found() const { return found_; }
    /// What was dropped and can be brought back.
    const std::vector<FoundFeature>& dropped() const { return dropped_; }
    std::size_t pinOne() const { return pinOne_; }
    /// Where features are looked for; none: everywhere.
    const std::optional<PixelRegion>& region() const { return region_; }
    void clearRegion();
    /// Large pictures are searched beside the window.
    Result<void> find();
    void drop(std::size_t index);
    void bringBack(std::size_t dropped);
    /// Brings back what finding left out.
    void takeBackLeftOut(std::size_t leftOut);
    /// Another part in the same picture becomes the proposal.
    void takeOther(std::size_t other);
    void setPinOne(std::size_t index);
    Result<void> take(bool asFormation = true);
    /// Lays what was found over the footprint, or takes it off again. Errors: nothing found, no way to lay it.
    Result<void> compare();
    const std::optional<Laid>& laid() const { return laid_; }
    /// How far pads are off what the picture shows: of what was laid over, else of what was read.
    std::vector<Deviation> deviations() const;
    /// Picture and footprint in turn, or side by side with a border at a share of the sheet's width.
    bool blinking() const { return blink_.isActive(); }
    bool blinkShowsPicture() const { return blinkPicture_; }
    void setBlinking(bool on);
    const std::optional<double>& wipe() const { return wipe_; }
    void setWipe(std::optional<double> at);

    // ------------------------------------------------------------------ clicks

    Tool tool() const { return tool_; }
    void setTool(Tool tool);
    /// The places that were clicked with the tool in hand.
    const std::vector<PixelPoint>& places() const { return places_; }
    /// How many places the tool in hand takes; 0 for as many as one likes.
    int placesWanted() const;
    How how() const { return how_; }
    void setHow(How how);
    /// The feature that is read next; empty for what is pointed at.
    const FeatureId& target() const { return target_; }
    void setTarget(const FeatureId& id);

    /// How many of the picture's pixels a finger's width on the screen is.
    void setReach(double pixels) { reach_ = pixels; }
    /// A click on the picture; true when it meant something.
    bool clickAt(PixelPoint at, bool shift);
    /// Enter: what was clicked so far is all.
    void finish();
    /// Backspace: the last place goes.
    void takeBack();
    /// Moves what was read or placed last.
    void nudge(double dx, double dy);
    /// Found feature under a place; -1 for none.
    int foundAt(PixelPoint at) const;

    /// Makes the photograph square by the four places that were clicked and brings the result in. "85.6 x 54".
    Result<void> makeSquare(const QString& typed);

    /// The text of a drawing under a place, with what it offers; -1 for none.
    int textAt(PixelPoint at) const;
    const std::vector<OfferedDimension>& offered() const { return offered_; }
    /// The two features that a dimension of a DXF is taken between, as far as they were read in it.
    std::pair<FeatureId, FeatureId> offeredBetween() const;
    /// Takes a dimension over as a reading. Errors: as parseEntry; no text was clicked.
    Result<void> takeDimension(const QString& typed, Reading reading);

    /// The readings whose number stands on this page under a place; -1 for none.
    int readingAt(PixelPoint at) const;
    /// Shows the place of a reading: chooses its source and asks the sheet to go there.
    bool showPlace(std::size_t reading);

    bool half() const { return half_; }
    void setHalf(bool on);
    void setLeaveOut(Length detail);
    void removeOutline();

    /// Words about scale and turn, for the column.
    QString scaleWords() const;
    QString levelWords() const;

signals:
    void changed();
    void lengthWanted();     ///< both ends are there: type how far apart they are
    void squareWanted();     ///< all corners are there: type the rectangle's size
    void dimensionWanted();  ///< a text was clicked: say what it is the dimension of
    void placeShown(punch::PixelPoint at);
    void broughtIn();
    void readingPointed(int reading);

private:
    void onPart();
    double parameter(const char* name, double otherwise) const;
    /// Drops what was found but not taken, and the tool in hand.
    void forget();
    void readHere(PixelPoint at);
    void readBetween();
    void giveLevel();
    /// The straight piece of a DXF that both places lie on.
    std::optional<std::pair<PixelPoint, PixelPoint>> drawnAlong(PixelPoint a, PixelPoint b) const;
    /// What a page draws under a place: crossings, ends, lines.
    std::optional<SnappedPlace> snapped(PixelPoint at, double reach) const;
    void pick(const FeatureId& feature, PixelPoint at, double u, std::optional<double> size, double uSize,
              const QString& words, double rimOffset = 0);
    void closeOutline();
    /// How far beside two clicks an edge is looked for: what a hand is off by on the screen, pixels of the picture.
    double edgeReach() const { return std::clamp(0.8 * reach_, 8.0, 40.0); }
    void keepBroughtIn(const QString& file, const EvidenceChoice& choice, std::shared_ptr<PictureImage> image,
                       const QStringList& notes);
    void showFound(Result<Found> found);
    void lookAgain();
    void beside(const QString& what, std::function<std::function<void()>()> work) const;
    Document& document_;
    ViewState& view_;
    std::string chosen_;
    mutable std::map<std::string, std::shared_ptr<PictureImage>> images_;  ///< by file and page
    mutable std::map<std::string, QString> troubles_;
    mutable QString busy_;
    mutable int running_ = 0;
    double opacity_ = 1.0;
    Tool tool_ = Tool::None;
    How how_ = How::Rim;
    FeatureId target_;
    std::vector<PixelPoint> places_;
    std::optional<Found> found_;
    std::vector<FoundFeature> dropped_;
    std::size_t pinOne_ = 0;
    std::optional<PixelRegion> region_;
    std::optional<std::size_t> ruler_;  ///< that counts, where the user chose
    std::vector<std::size_t> refused_;  ///< rulers that are none
    std::optional<ScaleFrom> scaleBy_;
    std::optional<Laid> laid_;
    QTimer blink_;
    bool blinkPicture_ = true;
    std::optional<double> wipe_;
    FeatureId lastRead_;
    double reach_ = 10;
    std::vector<OfferedDimension> offered_;
    PixelPoint offeredAt_;
    int offeredText_ = -1;
    bool half_ = false;
    Length leaveOut_ = Length::fromMm(0.2);
    int begun_ = 0;  ///< of the part that the rest belongs to
};

}  // namespace punch
