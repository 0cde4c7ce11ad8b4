#include "app/tips.h"

#include <QCoreApplication>
#include <string_view>

namespace punch {
namespace {

struct Tip {
    const char* name;
    const char* words;
};

constexpr Tip kTips[] = {
    // start and library
    {"startPins", "How many pins: 4, 8 3 for two rows, 4 x 3 for a grid"},
    {"startLead", "What a lead looks like cut across"},
    {"startPegs", "Pegs, locks or lugs besides the pins; more can be added later"},
    {"putOnBench", "Begins a part with these pins, all of them loose (Enter)"},
    {"showMe", "Opens the example"},
    {"librarySearch", "Finds parts by name, description and note"},
    {"otherLibrary", "Shows the parts of another folder"},
    {"card-Row", "Pins in one line"},
    {"card-Two rows", "Two lines of pins that share a pitch"},
    {"card-Staggered rows", "Rows that stand half a pitch apart"},
    {"card-Two unlike rows", "Two rows, each with a pitch of its own"},
    {"card-Ring", "Pins all around a circle"},
    {"card-Arc", "Pins on a part of a circle"},
    {"card-Grid", "Columns and rows; positions can be left out"},
    {"card-One by one", "Pins without a pattern"},
    {"card-No pins", "What is printed, etched or screwed on"},
    {"takeRecovery", "Opens what was not saved when the program ended"},
    {"dropRecovery", "Forgets it and keeps the file as it was saved"},
    // along the top and beside the sheet
    {"askBox", "Type what you want to do (F1)"},
    {"unit-mm", "Shows lengths in millimetres, and takes typed numbers as such"},
    {"unit-mil", "Shows lengths in thousandths of an inch, and takes typed numbers as such"},
    {"unit-inch", "Shows lengths in inches, and takes typed numbers as such"},
    {"sideBadge", "Turns the part over (F6)"},
    {"sectionBoard", "Thickness of the board that the lead goes through"},
    {"sideDistances", "What is between potentials, the room of lands, drop-in"},
    {"sideSection", "The board cut through at the pin that is pointed at"},
    {"chain-hole", "Where the size of the hole comes from"},
    {"chain-land", "Where the size of the land comes from"},
    {"chain-x", "Where x comes from"},
    {"chain-y", "Where y comes from"},
    {"takeHole", "Sets the holes to the least size with which the wanted share drops in"},
    // Measure
    {"mendSlip", "Does what is offered (F10)"},
    {"keepSlip", "Keeps the value as it was read (Shift+F10)"},
    {"takePitch", "Takes the standard size that fits, for all that depends on it (F4)"},
    {"keepPitch", "Keeps the size as it was read"},
    // Sources
    {"toNotebook", "Back to the readings"},
    {"facePart", "You look at the part from above, as it stands on the board"},
    {"faceSolder", "You look at its leads, from below the board"},
    {"knownLength", "Point at two places whose distance you know"},
    {"takeRuler", "Takes the scale of the ruler that was found"},
    {"findPins", "Looks for pins, holes and their formation (Ctrl+F)"},
    {"knownLengthLine", "A length with its unit, as 50 mm"},
    {"squareLine", "Two lengths, as 20 30"},
    {"readTarget", "The feature that the next clicks read"},
    {"readHow", "Rim, edge, corner or a plain point"},
    {"dimensionLine", "As printed, with its tolerance"},
    {"dimensionKind", "What its ends lie on"},
    {"dimensionFirst", "The feature at its one end"},
    {"dimensionSecond", "The feature at its other end"},
    {"takeDimension", "Makes a reading of it"},
    {"outlineHalf", "The other half is its mirror image"},
    {"outlineDetail", "Steps smaller than this are left out"},
    {"outlineClose", "Ends the outline at its first point"},
    {"outlineRemove", "Goes back to the body's rectangle"},
    // Place
    {"formations", "The formation that these fields speak of"},
    {"addFormation", "Adds pins in another pattern"},
    {"removeFormation", "Takes this formation out; its readings stay"},
    {"kind", "How the pins of the formation stand"},
    {"pins", "Number of pins; two rows as 8 3, a grid as 4 x 3"},
    {"twinOf", "The formation that this one is the mirror image of"},
    {"mirror", "What the mirror exchanges"},
    {"middlePin", "A pin in the middle of the ring"},
    {"arc", "Pins on a part of a circle, their step unknown"},
    {"clockwise", "Which way the pins follow each other around"},
    {"ownPitch", "The rear row does not share the front row's pitch"},
    {"lead", "What a lead looks like cut across"},
    {"movedPin", "The chosen pin gets a place of its own, or goes back to the pattern"},
    {"leaveOut", "The chosen position of the grid carries no pin"},
    {"putBack", "Every position of the grid carries a pin again"},
    {"pitch", "Takes a standard pitch, or what was read"},
    {"order", "In which order numbers follow the pins"},
    {"from", "Where the first number stands"},
    {"firstRow", "Which row is numbered first"},
    {"step", "Each number, or every second one"},
    {"prefix", "Letters before every number"},
    {"rowLetters", "Rows are letters, columns numbers"},
    {"shared", "Two pins may carry one number where they are joined inside"},
    {"ownNumber", "A number for the chosen pin alone; empty: by the order"},
    {"numberByPointing", "Each pin that you click gets the next number"},
    {"datum", "The place that all coordinates count from"},
    {"spots", "The peg, hole, mark or face that these fields speak of"},
    {"addPeg", "Adds a locating peg; drag it to where it is seen"},
    {"addFeature", "Adds a lock, lug, hole, mark or face"},
    {"removePeg", "Takes it out; its readings stay (Delete)"},
    {"featureName", "What it is called in readings and reports"},
    {"flat", "It is wider than thick; else it is round"},
    {"pegOtherSide", "Draws it on the other side of the row"},
    {"pegOtherEnd", "Draws it at the other end of the row"},
    {"twinFeature", "One more, mirrored about the middle of the body"},
    // Size
    {"landOf", "Where the fields below change something"},
    {"landReason", "Why it is not as the rule says; stands in the chain"},
    {"moreLand", "Shows the fields that are seldom needed"},
    {"potentialName", "As line, neutral, coil"},
    {"potentialVolts", "R.m.s. of a.c., signed d.c., or a peak"},
    {"potentialKind", "What the number of volts is"},
    {"addPotential", "The pins carry this potential from now on"},
    {"cutKind", "A milled slot, or a window with rounded corners"},
    {"cutFrom", "x and y from the datum"},
    {"cutTo", "x and y from the datum"},
    {"cutWidth", "Of the slot; of a window twice the radius of its corners"},
    {"addCutOut", "Cuts it out of the board"},
    {"fabProfile", "What the board maker can do"},
    {"moreFab", "Shows the limits of the profile"},
    {"keepFab", "Other parts of this library can choose the profile then"},
    // Dress and Fit
    {"courtyardExcess", "Room beyond body, lands and travel, each side"},
    {"bodyPresent", "Without a body there is no outline"},
    {"standoff", "Between the board and the underside of the body"},
    // Release
    {"partName", "Stands on the drawing and names the files"},
    {"description", "In a few words; the library searches it"},
    {"sourceNote", "What the source is worth: sold as 16, the lookalike's drawing says 16.0"},
    {"boardNote", "That a board fitted, or what was corrected after it: board 2: pegs 0.05 looser. Enter keeps it"},
    {"pinout", "Which pinout is shown and released: the same body can have several"},
    {"dropPinout", "Takes this pinout away; the part itself stays"},
    {"pinsOfPads", "Makes a pin for every pad that has none"},
    {"pastePins", "Takes number and name of each pin from what was copied: a spreadsheet, a CSV, a drawing's text"},
    {"takePins", "Puts them in place of the pins that are there"},
    {"leavePins", "Leaves the pins as they were"},
    {"pins", "Type number and names; 1..8 and D0..D7 are series, /RESET has a bar. Drag a pin onto a pad to join them"},
    {"benchNote", "What a multimeter says between two pins: 1 2 10k fully left, 1 3 open, 1 2 beep"},
    {"dropNote", "Takes the last bench note away"},
    {"partValue", "What is printed on the assembly drawing, and {value} in texts, such as 10 k; empty: the name"},
    {"sourceTitle", "Which drawing, picture or letter it is"},
    {"sourceLink", "An address on the web; it is shown before it is opened"},
    {"sourcePicture", "A file, which is copied beside the part"},
    {"choosePicture", "Looks for a file"},
    {"addSource", "Keeps the source with the part"},
    {"save", "Saves the part (Ctrl+S)"},
    {"saveAs", "Saves the part under another name (Ctrl+Shift+S)"},
    {"export", "Which files come out, how large they are and whether they hold what the sheet shows; all or none are written (Ctrl+E)"},
    {"toPaper", "To lay the part on, several parts on a sheet, mirrored too (Ctrl+P)"},
    {"toCoupon", "A small board with graded holes; the copy that fits is taken when it comes back"},
    {"toBoard", "Several parts together: courtyards, keepouts, voltages between them, and their files"},
    {"renameFile", "The file gets the name of the part"},
    // family and makes
    {"keepPinout", "Takes it over"},
    {"pinoutValue", "Of the part as this pinout; empty: the part's"},
    {"pinoutDescription", "Of the part as this pinout; empty: the part's"},
    {"pinoutDiffers", "Description, value and marks of this pinout"},
    {"releaseOrigin", "Where the receiver of the files wants 0, 0"},
    {"lessLibrary", "Shows this folder no longer; its files stay"},
    {"moreLibrary", "Shows the parts of one more folder beside these, one that may only be read too"},
    {"libraryFolders", "Which of the folders is shown"},
    {"keepSymbol", "Takes the drawing over"},
    {"symbolLines", "One shape or attribute a line"},
    {"symbolBegin", "A contact, a coil, a socket to begin with"},
    {"drawSymbol", "Shapes, attributes, what is shown"},
    {"referenceClass", "The letter that a standard gives to this class of part"},
    {"takeIn", "Makes a part of them"},
    {"takePatterns", "Land patterns, or components of the board"},
    {"compareTable", "The worst pad first; choose one to see it"},
    {"compareOther", "A part, copper and drill files of a board together, IPC-2581, a table"},
    {"compareBy", "By equal pads as near as they can lie, or as both stand from their datums"},
    {"comparePattern", "Which of the patterns in the files it is laid over"},
    {"familyBy", "Whether this part stands for others with other ways too"},
    {"familyNames", "{ways} or {column} in it is the member's"},
    {"familyFrom", "The fewest ways"},
    {"familyTo", "The most ways"},
    {"familyStep", "Every so many ways"},
    {"familyMembers", "Choose one to see it"},
    {"openMember", "Puts the member on the bench as a part of its own"},
    {"writeMembers", "Writes the files of all members, all of them or none"},
    {"addMake", "Another part whose leads shall go into the same holes"},
    {"tryJoins", "Round holes, slots, two holes, laid over each other in each way: what each does"},
    {"makesBy", "How the makes lie over each other"},
};

QString tipOf(const QString& name) {
    for (const Tip& tip : kTips)
        if (name == QLatin1String(tip.name)) return QCoreApplication::translate("Tips", tip.words);
    return {};
}

}  // namespace

void giveTips(QWidget* root) {
    for (QWidget* w : root->findChildren<QWidget*>())
        if (w->toolTip().isEmpty() && !w->objectName().isEmpty())
            if (const QString tip = tipOf(w->objectName()); !tip.isEmpty()) w->setToolTip(tip);
}

}  // namespace punch
