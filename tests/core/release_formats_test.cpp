// Formats for layout, mechanics and paper, read by what nobody here wrote where there is such a reader.

#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <random>
#include <set>
#include <sstream>

#include "core/artwork/artwork.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/drawing/pdf_pages.h"
#include "core/drawing/read_dxf.h"
#include "core/foreign/csv_pads.h"
#include "core/foreign/foreign_pads.h"
#include "core/foreign/ipc2581_pads.h"
#include "core/release/derive_json.h"
#include "core/release/dxf_out.h"
#include "core/release/formats.h"
#include "core/release/ipc2581_out.h"
#include "core/release/paper_out.h"
#include "core/release/report.h"
#include "core/release/report_pdf.h"
#include "core/release/tables.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::release_formats_test {
namespace {

namespace fs = std::filesystem;

const char* const kDemo[] = {"QB-TB4", "HT-RM2",  "PW-VS11", "HT-SEL6", "PW-RS7",
                             "QB-LX4", "PW-FX24", "FH-FID",  "FH-TB4"};

Part demo(const std::string& name) {
    const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
    EXPECT_TRUE(part) << name;
    return *part;
}

TEST(Dxf, AReaderThatNobodyHereWroteFindsEveryHoleAndLandWithoutComplaint) {
    const fs::path folder = fs::temp_directory_path() / "punchbit dxf by another";
    fs::create_directories(folder);
    for (const char* name : kDemo) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        const auto text = footprintDxf(part, f);
        ASSERT_TRUE(text) << text.error().text();
        const fs::path file = folder / (std::string(name) + ".dxf");
        std::ofstream(file) << *text;
        const auto [code, out] = test::run("/usr/bin/python3 '" + test::sourceFolder() +
                                           "/tests/support/read_dxf.py' '" + file.string() + "'");
        ASSERT_EQ(code, 0) << out;
        std::istringstream lines(out);
        int unit = 0, errors = -1;
        lines >> unit >> errors;
        EXPECT_EQ(unit, 4) << "millimetres";
        EXPECT_EQ(errors, 0) << name;
        struct Found {
            std::string layer, kind;
            double left, bottom, right, top;
        };
        std::vector<Found> found;
        std::string line;
        std::getline(lines, line);
        while (std::getline(lines, line)) {
            std::istringstream cells(line);
            Found one;
            std::getline(cells, one.layer, '\t');
            std::getline(cells, one.kind, '\t');
            ASSERT_TRUE(cells >> one.left >> one.bottom >> one.right >> one.top) << line;
            found.push_back(one);
        }
        const std::pair<Layer, const char*> kSeen[] = {{Layer::PlatedHoles, "plated holes"},
                                                       {Layer::BareHoles, "bare holes"},
                                                       {Layer::TopCopper, "top copper"},
                                                       {Layer::BottomCopper, "bottom copper"},
                                                       {Layer::TopMask, "top mask"}};
        std::size_t compared = 0;
        for (const auto& [layer, word] : kSeen) {
            std::size_t here = 0;
            for (const Shape& s : artwork(part, f, layer)) {
                const RoundedPolygon* area = s.rounded();
                if (!area) continue;
                ++here;
                double left = 1e9, bottom = 1e9, right = -1e9, top = -1e9;
                for (const Point& c : area->corners) {
                    left = std::min(left, c.x.mm() - area->radius.mm());
                    right = std::max(right, c.x.mm() + area->radius.mm());
                    bottom = std::min(bottom, c.y.mm() - area->radius.mm());
                    top = std::max(top, c.y.mm() + area->radius.mm());
                }
                const char* kind = area->corners.size() == 1 ? "CIRCLE" : "LWPOLYLINE";
                EXPECT_TRUE(std::any_of(found.begin(), found.end(),
                                        [&, word = word](const Found& d) {
                                            return d.layer == word && d.kind == kind &&
                                                   std::abs(d.left - left) < 1e-3 && std::abs(d.right - right) < 1e-3 &&
                                                   std::abs(d.bottom - bottom) < 1e-3 && std::abs(d.top - top) < 1e-3;
                                        }))
                    << name << ", " << word << ": " << kind << " from " << left << ", " << bottom << " to " << right
                    << ", " << top;
            }
            EXPECT_GE(static_cast<std::size_t>(std::count_if(found.begin(), found.end(),
                                                             [w = word](const Found& d) { return d.layer == w; })),
                      here);
            compared += here;
        }
        EXPECT_GT(compared, 0u) << name;
    }
    fs::remove_all(folder);
}

TEST(Dxf, EveryHoleIsACircleOrASlotAtItsPlaceAndTheUnitIsSet) {
    for (const char* name : kDemo) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        const auto text = footprintDxf(part, f);
        ASSERT_TRUE(text) << text.error().text();
        EXPECT_EQ(text->find("SPLINE"), std::string::npos);
        EXPECT_NE(text->find("$INSUNITS"), std::string::npos);
        EXPECT_NE(text->find("top courtyard"), std::string::npos) << "layers are spelled out";
        const auto read = dxfFromText(*text, name);
        ASSERT_TRUE(read) << name << read.error().text();
        EXPECT_NEAR(read->mmPerUnit.value_or(0), 1, 1e-12);
        // Holes as circles: between any two of them as far as in the footprint, to a micrometre.
        std::vector<Point> round;
        std::vector<double> radius;
        for (const Layer layer : {Layer::PlatedHoles, Layer::BareHoles})
            for (const Shape& s : artwork(part, f, layer))
                if (s.rounded()->corners.size() == 1) {
                    round.push_back(s.rounded()->corners[0]);
                    radius.push_back(s.rounded()->radius.mm());
                }
        if (round.empty()) continue;
        const double mm = 25.4 / kDxfDpi;
        const auto arcAt = [&](double x, double y, double r) {
            return std::any_of(read->arcs.begin(), read->arcs.end(), [&](const DrawnArc& a) {
                return a.whole() && std::abs(a.radius * mm - r) < 1e-3 &&
                       std::hypot(a.centre.x * mm - x, a.centre.y * mm - y) < 1e-3;
            });
        };
        // The first hole's circle says where the origin lies.
        bool placed = false;
        for (const DrawnArc& a : read->arcs) {
            if (!a.whole() || std::abs(a.radius * mm - radius[0]) > 1e-3) continue;
            const double ox = a.centre.x * mm - round[0].x.mm(), oy = a.centre.y * mm + round[0].y.mm();
            bool all = true;
            for (std::size_t i = 0; i < round.size(); ++i)
                all = all && arcAt(ox + round[i].x.mm(), oy - round[i].y.mm(), radius[i]);
            placed = placed || all;
        }
        EXPECT_TRUE(placed) << name;
    }
}

TEST(Ipc2581, EveryReferenceIsThereAndTheLandsComeBack) {
    for (const char* name : kDemo) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        const auto text = ipc2581(part, f);
        ASSERT_TRUE(text) << text.error().text();
        pugi::xml_document document;
        ASSERT_TRUE(document.load_string(text->c_str()));
        std::map<std::string, std::set<std::string>> named;
        const auto collect = [&](const char* path, const char* attribute) {
            for (const auto& node : document.select_nodes(path)) {
                const std::string id = node.node().attribute(attribute).value();
                EXPECT_FALSE(id.empty()) << path;
                EXPECT_TRUE(named[path].insert(id).second) << "twice: " << id;
            }
            return named[path];
        };
        const auto within = [&](const char* path, const char* attribute, const std::set<std::string>& there) {
            for (const auto& node : document.select_nodes(path)) {
                const std::string id = node.node().attribute(attribute).value();
                EXPECT_TRUE(id.empty() || there.contains(id)) << name << " " << path << " " << id;
            }
        };
        within("//StandardPrimitiveRef", "id", collect("//EntryStandard", "id"));
        within("//LineDescRef", "id", collect("//EntryLineDesc", "id"));
        within("//*[@padstackDefRef]", "padstackDefRef", collect("//PadStackDef", "name"));
        const auto layers = collect("//CadData/Layer", "name");
        within("//*[@layerRef]", "layerRef", layers);
        within("//Content/LayerRef", "name", layers);
        within("//*[@packageRef]", "packageRef", collect("//Package", "name"));
        within("//PinRef", "pin", collect("//Package/Pin", "number"));
        for (const auto& node : document.select_nodes("//PinRef"))
            EXPECT_STRNE(node.node().attribute("pin").value(), "") << name;
        if (const auto& pins = named["//Package/Pin"]; !pins.empty()) {
            EXPECT_TRUE(pins.contains(document.select_node("//Package").node().attribute("pinOne").value()));
        }
        EXPECT_EQ(document.select_nodes("//Bom").empty(), !isBought(part.kind));
        // What another reader makes of it.
        if (f.pads.empty() && f.attached.lands.empty()) continue;
        const auto read = padsFromIpc2581(*text, name);
        if (f.pads.empty()) continue;
        ASSERT_TRUE(read) << name << read.error().text();
        const auto& pads = read->patterns.at(0).pads;
        for (const Pad& p : f.pads) {
            const auto it = std::find_if(pads.begin(), pads.end(), [&](const ForeignPad& o) {
                return o.number == p.number && std::hypot(o.x - p.at.x.mm(), o.y - p.at.y.mm()) < 1e-6;
            });
            ASSERT_NE(it, pads.end()) << name << " " << p.number;
            EXPECT_NEAR(it->hole, p.hole.mm(), 1e-6);
            EXPECT_NEAR(it->landX, shownLand(p).width.mm(), 1.1e-6);
        }
    }
}

TEST(SurfaceLands, StandInEveryTable) {
    const Part part = demo("PW-FX24");
    const Footprint f = derive(part);
    std::size_t lands = 0;
    for (const Conductor& c : f.attached.lands) lands += isSurfaceLand(c);
    ASSERT_EQ(lands, 24U);
    const auto json = nlohmann::json::parse(deriveJson(part, f));
    std::size_t inJson = 0;
    for (const auto& pad : json["pads"]) inJson += pad.contains("of");
    EXPECT_EQ(inJson, lands);
    const auto csv = padsFromCsv(*coordinateTable(part, f), "table");
    const auto ipc = padsFromIpc2581(*ipc2581(part, f), "file");
    ASSERT_TRUE(csv && ipc);
    for (const Conductor& c : f.attached.lands) {
        if (!isSurfaceLand(c)) continue;
        for (const auto* pads : {&csv->patterns.at(0).pads, &ipc->patterns.at(0).pads}) {
            const auto it = std::find_if(pads->begin(), pads->end(), [&](const ForeignPad& o) {
                return o.number == c.number && std::hypot(o.x - c.at.x.mm(), o.y - c.at.y.mm()) < 1e-4;
            });
            ASSERT_NE(it, pads->end()) << c.number;
            EXPECT_EQ(it->hole, 0);
            EXPECT_NEAR(it->landX, shownLand(c).width.mm(), 1e-4);
            EXPECT_NEAR(it->landY, shownLand(c).length.mm(), 1e-4);
        }
    }
}

/// Middles of the dark runs along a line of pixels.
std::vector<double> ticks(const Grey& picture, int along, bool row) {
    std::vector<double> all;
    const int n = row ? picture.width : picture.height;
    int from = -1;
    for (int i = 0; i <= n; ++i) {
        const bool dark = i < n && (row ? picture.at(i, along) : picture.at(along, i)) < 128;
        if (dark && from < 0) from = i;
        if (!dark && from >= 0) {
            all.push_back((from + i - 1) / 2.0);
            from = -1;
        }
    }
    return all;
}

/// Length of the test bars in the page, mm: along x and y, measured in pixels of 600 dpi and finer.
std::pair<double, double> testBars(const std::string& pdf, const PaperOptions& o) {
    const fs::path file = fs::temp_directory_path() / fmt::format("paper-{}.pdf", std::random_device{}());
    std::ofstream(file, std::ios::binary) << pdf;
    const auto pages = PdfPages::open(file.string());
    EXPECT_TRUE(pages) << (pages ? "" : pages.error().text());
    const double px = kPageDpi / 25.4, sx = 100 / o.printedX, sy = 100 / o.printedY;
    constexpr double kFine = 4;
    const auto measured = [&](bool row) {
        // A strip beside the bar, which only its ticks cross: they are 12 and 112 from the edge.
        const double x0 = row ? 8 : 13, y0 = row ? o.pageHeight - 13.2 : o.pageHeight - 116;
        PixelRegion region{static_cast<int>(x0 * sx * px), static_cast<int>(y0 * sy * px),
                           static_cast<int>((row ? 110 : 1) * px), static_cast<int>((row ? 1 : 110) * px)};
        const auto picture = pages->draw(0, region, kFine);
        EXPECT_TRUE(picture) << (picture ? "" : picture.error().text());
        const Grey grey = greyOf(*picture);
        const auto all = ticks(grey, (row ? grey.height : grey.width) / 4, row);
        EXPECT_GE(all.size(), 11U) << row;
        return all.size() < 11 ? 0.0 : (all[10] - all[0]) / kFine / px;
    };
    const std::pair<double, double> both{measured(true), measured(false)};
    fs::remove(file);
    return both;
}

TEST(Paper, IsAtTrueScaleWithinAPixelAndCorrectsThePrinter) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const auto plain = paperPdf({{&part, &f}});
    ASSERT_TRUE(plain) << plain.error().text();
    const auto [x, y] = testBars(*plain, {});
    EXPECT_NEAR(x, 100, 25.4 / 600);
    EXPECT_NEAR(y, 100, 25.4 / 600);
    // A printer that is 0.4 % long along x and 0.7 % short along y makes 100 of what is drawn.
    PaperOptions o;
    o.printedX = 100.4;
    o.printedY = 99.3;
    const auto corrected = paperPdf({{&part, &f}}, o);
    ASSERT_TRUE(corrected);
    const auto [cx, cy] = testBars(*corrected, o);
    EXPECT_NEAR(cx * 1.004, 100, 0.02);
    EXPECT_NEAR(cy * 0.993, 100, 0.02);
}

TEST(Paper, SeveralPartsShareASheetAndWhatIsTooLargeSaysSo) {
    std::vector<Part> parts;
    for (const char* name : kDemo) parts.push_back(demo(name));
    std::vector<Footprint> footprints;
    for (const Part& p : parts) footprints.push_back(derive(p));
    std::vector<PaperPart> on;
    for (std::size_t i = 0; i < parts.size(); ++i) on.push_back({&parts[i], &footprints[i]});
    const auto pdf = paperPdf(on);
    ASSERT_TRUE(pdf) << pdf.error().text();
    EXPECT_TRUE(looksLikePdf(*pdf));
    EXPECT_EQ(*pdf, *paperPdf(on)) << "the same parts give the same bytes";
    EXPECT_FALSE(paperPdf({}));
    PaperOptions off;
    off.printedX = 150;
    EXPECT_FALSE(paperPdf(on, off));
    PaperOptions small;
    small.pageWidth = 40;
    small.pageHeight = 40;
    EXPECT_FALSE(paperPdf(on, small));
}

/// Numbers of a text, as they are written.
std::set<double> numbersIn(const std::string& text) {
    std::set<double> all;
    for (std::size_t i = 0; i < text.size();) {
        if (std::isdigit(static_cast<unsigned char>(text[i])) == 0) {
            ++i;
            continue;
        }
        std::size_t n = i;
        while (n < text.size() && (std::isdigit(static_cast<unsigned char>(text[n])) != 0 || text[n] == '.')) ++n;
        all.insert(std::atof(text.substr(i, n - i).c_str()));
        i = n;
    }
    return all;
}

TEST(Report, EveryCoordinateHoleAndReadingIsOneOfTheJson) {
    for (const char* name : kDemo) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        const auto html = reportHtml(part, f, reportContent(part, f, "2026-11-30", {}, {}));
        ASSERT_TRUE(html) << html.error().text();
        pugi::xml_document document;
        // Well-formed but for the head's tags that need no end.
        EXPECT_NE(html->find("2026-11-30"), std::string::npos);
        EXPECT_EQ(html->find("<script"), std::string::npos);
        const auto known = numbersIn(deriveJson(part, f));
        const auto near = [&](double v, double slack) {
            const auto it = known.lower_bound(v - slack);
            return it != known.end() && *it <= v + slack;
        };
        const std::size_t from = html->find("<h2>Coordinates");
        if (from == std::string::npos) continue;
        const std::string table = html->substr(from, html->find("</table>", from) - from);
        std::size_t cells = 0;
        for (std::size_t at = 0; (at = table.find("<td class=\"n\">", at)) != std::string::npos; ++cells) {
            at += 14;
            for (const double v : numbersIn(table.substr(at, table.find('<', at) - at)))
                EXPECT_TRUE(near(v, 0.0051)) << name << " " << v;
        }
        EXPECT_GE(cells, f.pads.size() * 4);
    }
}

/// All words of a PDF, by a reader that nobody here wrote.
std::string wordsOf(const std::string& pdf, int& pages) {
    const std::string file =
        (fs::temp_directory_path() / fmt::format("report-{}.pdf", std::random_device{}())).string();
    EXPECT_TRUE(writeAtomically(file, pdf));
    const auto read = PdfPages::open(file);
    EXPECT_TRUE(read);
    std::string all;
    pages = read ? read->count() : 0;
    for (int i = 0; i < pages; ++i) {
        const auto texts = read->texts(i, *read->sizeOf(i));
        for (const DrawnText& t : texts->texts) all += t.text + " ";
    }
    fs::remove(file);
    return all;
}

TEST(Report, HasOneToFourPagesWithEveryPlace) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "HT-SEL6", "PW-RS7", "QB-LX4", "FH-FID", "PW-FX24"}) {
        const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
        const Footprint f = derive(*part);
        const Stamp stamp = stampOf(*part, f);
        const auto content = reportContent(*part, f, "2026-11-30", stamp, test::sourceFolder() + "/demo/fennel-house");
        const auto pdf = reportPdf(*part, f, content);
        ASSERT_TRUE(pdf) << name;
        EXPECT_EQ(*pdf, *reportPdf(*part, f, content)) << "the same part gives the same bytes";
        int pages = 0;
        const std::string words = wordsOf(*pdf, pages);
        EXPECT_GE(pages, 1);
        EXPECT_LE(pages, kMostReportPages) << name;
        EXPECT_NE(words.find(stamp.digest.substr(0, 32)), std::string::npos) << name;
        for (const Pad& p : f.pads)
            EXPECT_NE(words.find(fmt::format("{:.3f}", p.at.x.mm() + 0.0)), std::string::npos)
                << name << " " << p.number;
        for (const Gauge& g : f.gauges) EXPECT_NE(words.find(g.title), std::string::npos) << name << ": " << g.title;
    }
}

TEST(Report, OfALargePartIsCutAndSaysSo) {
    Part part = *newRow(240);
    part.name = "LONG";
    for (Formation& form : part.formations) part.taken[form.id + ".pitch"] = Length::fromMm(2.54);
    const Footprint f = derive(part);
    const auto pdf = reportPdf(part, f, reportContent(part, f, "", {}, ""));
    ASSERT_TRUE(pdf);
    int pages = 0;
    const std::string words = wordsOf(*pdf, pages);
    EXPECT_LE(pages, kMostReportPages);
    EXPECT_NE(words.find("more, in the tables"), std::string::npos);
    EXPECT_NE(words.find("LOOSE"), std::string::npos);
}

TEST(Report, ShowsPicturesWithTheReadingsOnThem) {
    const std::string home = test::sourceFolder() + "/demo/fennel-house";
    const Part part = *loadPart(home + "/HT-SEL6.punch");
    const Footprint f = derive(part);
    const auto content = reportContent(part, f, "", {}, home);
    ASSERT_EQ(content.pictures.size(), 1U);
    std::size_t picked = 0;
    for (const Reading& r : part.readings) picked += r.pick ? 1 : 0;
    EXPECT_EQ(content.pictures[0].picks.size(), picked);
    for (const ReportPick& p : content.pictures[0].picks) {
        EXPECT_GE(p.a.x, 0);
        EXPECT_LT(p.a.x, content.pictures[0].picture.width);
        EXPECT_LT(p.a.y, content.pictures[0].picture.height);
    }
    EXPECT_NE(reportHtml(part, f, content)->find("data:image/png;base64,iVBOR"), std::string::npos)
        << "it needs nothing else";
    // Moved away from its pictures it says so, and stands all the same.
    const auto alone = reportContent(part, f, "", {}, "/nowhere");
    EXPECT_TRUE(alone.pictures.empty());
    EXPECT_FALSE(alone.missing.empty());
    EXPECT_TRUE(reportPdf(part, f, alone));
}

TEST(Report, EveryNumberOfEveryTableIsOneOfTheJson) {
    for (const char* name : kDemo) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        const auto known = numbersIn(deriveJson(part, f));
        std::size_t looked = 0;
        for (const ReportTable& t : reportContent(part, f, "", {}, "").tables)
            for (const ReportRow& row : t.rows)
                for (std::size_t i = 0; i < row.cells.size(); ++i) {
                    const std::string& cell = row.cells[i];
                    if (cell.empty() || cell[0] != '#' || t.heads[i] == "#No.") continue;
                    for (const double v : numbersIn(cell.substr(1))) {
                        const bool thousandths = cell.size() > 4 && cell[cell.size() - 4] == '.';
                        const double slack = cell.find('.') == std::string::npos ? 0.51
                                             : thousandths                       ? 0.00051
                                                                                 : 0.0051;
                        const auto it = known.lower_bound(v - slack);
                        EXPECT_TRUE(it != known.end() && *it <= v + slack) << name << ", " << t.title << ": " << cell;
                        ++looked;
                    }
                }
        EXPECT_GE(looked, f.pads.size()) << name;
    }
}

TEST(Report, SaysWhatIsLooseAndHidesNoMarkup) {
    Part part = *newRow(4);
    part.name = "<b>bold</b> & more";
    const Footprint derived = derive(part);
    const auto html = reportHtml(part, derived, reportContent(part, derived, "", {}, ""));
    ASSERT_TRUE(html);
    EXPECT_NE(html->find("LOOSE"), std::string::npos);
    EXPECT_NE(html->find("&lt;b&gt;bold"), std::string::npos);
    EXPECT_EQ(html->find("<b>bold"), std::string::npos);
}

TEST(Origin, IsWhereTheReceiverWantsIt) {
    const Part part = test::demoPart();
    const auto at = [&](Origin origin) { return derive(withOrigin(part, origin)); };
    EXPECT_EQ(at(Origin::Datum).pads[0].at, derive(part).pads[0].at);
    EXPECT_NEAR(at(Origin::PinOne).pads[0].at.x.mm(), 0, 1e-9);
    EXPECT_NEAR(at(Origin::PinOne).pads[0].at.y.mm(), 0, 1e-9);
    const Footprint pins = at(Origin::MiddleOfPins), body = at(Origin::MiddleOfBody);
    EXPECT_NEAR((pins.pads.front().at.x + pins.pads.back().at.x).mm(), 0, 1e-9);
    EXPECT_NEAR(body.body->rect.middle().x.mm(), 0, 1e-6);
    EXPECT_NEAR(body.body->rect.middle().y.mm(), 0, 1e-6);
}

TEST(Export, AWholeLibraryGoesOutAtOnce) {
    const fs::path folder = fs::temp_directory_path() / fmt::format("export-{}", std::random_device{}());
    const std::string stock = test::sourceFolder() + "/demo/fennel-house/stock";
    auto run =
        test::punchRun("export '" + stock + "' --to '" + folder.string() + "' --format csv --format dxf --origin pin1");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), fs::directory_iterator()), 60);
    // Two parts whose names fall together: one is refused, nothing is written over.
    Part a = test::demoPart(), b = a;
    a.name = "Same";
    b.name = "SAME";
    fs::create_directories(folder / "in");
    ASSERT_TRUE(savePart(a, folder / "in/a.punch"));
    ASSERT_TRUE(savePart(b, folder / "in/b.punch"));
    run = test::punchRun("export '" + (folder / "in").string() + "' --to '" + (folder / "out").string() +
                         "' --format csv --threads 1");
    EXPECT_EQ(run.code, 2);
    EXPECT_NE(run.out.find("another name"), std::string::npos) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "out"), fs::directory_iterator()), 1);
    run = test::punchRun("paper '" + stock + "' --out '" + (folder / "all.pdf").string() +
                         "' --printed 100.4,99.3 --mirrored");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_GT(fs::file_size(folder / "all.pdf"), 10000U);
    ASSERT_TRUE(savePart(*newRow(4), folder / "in/loose.punch"));
    run = test::punchRun("paper '" + (folder / "in/loose.punch").string() + "' --out '" +
                         (folder / "loose.pdf").string() + "'");
    EXPECT_EQ(run.code, 2);
    EXPECT_NE(run.out.find("--loose"), std::string::npos);
    EXPECT_FALSE(fs::exists(folder / "loose.pdf"));
    fs::remove_all(folder);
}

}  // namespace
}  // namespace punch::release_formats_test
