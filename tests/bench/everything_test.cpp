// Every gauge clicked, every link of every chain followed, every command run, every field saved, on every demo part and
// on an empty bench; and a seeded random walk of keys and clicks.

#include <random>

#include "app/gauge_rail.h"
#include "app/side/chain_view.h"
#include "app/stations/form_column.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

/// Dialogs that a command opens would wait for a person: they are put away as soon as they stand.
class DialogCloser {
public:
    DialogCloser() {
        timer_.setInterval(5);
        QObject::connect(&timer_, &QTimer::timeout, [] {
            if (QWidget* popup = QApplication::activePopupWidget()) popup->close();
            auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
            if (auto* box = qobject_cast<QMessageBox*>(dialog)) {
                // "Let it go" where something would be lost.
                for (QAbstractButton* b : box->buttons())
                    if (box->buttonRole(b) == QMessageBox::DestructiveRole) return b->click();
            }
            if (dialog != nullptr) dialog->reject();
        });
        timer_.start();
    }

private:
    QTimer timer_;
};

class EverythingTest : public BenchTest, public testing::WithParamInterface<const char*> {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        if (std::string(GetParam()).empty()) return;
        // A copy, so that nothing is written beside the demo.
        const QString from = QString::fromStdString(sourceFolder()) + "/demo/fennel-house/";
        const QString name = QString(GetParam()) + ".punch";
        ASSERT_TRUE(QFile::copy(from + name, folder.filePath(name)));
        const QDir sources(from + GetParam() + "-sources");
        QDir(folder.path()).mkdir(QString(GetParam()) + "-sources");
        for (const QString& file : sources.entryList(QDir::Files))
            QFile::copy(sources.filePath(file), folder.filePath(QString(GetParam()) + "-sources/" + file));
        ASSERT_TRUE(window->openPath(folder.filePath(name)));
    }
};

TEST_P(EverythingTest, EachGaugeLeadsToItsStation) {
    const auto count = window->document().open() ? footprint().gauges.size() : 3;
    for (std::size_t i = 0; i < count; ++i) {
        emit window->rail().culpritsWanted(static_cast<int>(i));
        if (!window->document().open()) continue;
        const Gauge& g = footprint().gauges[i];
        const bool unmeasured = g.state == GaugeState::Unknown && g.words.find("measured") != std::string::npos;
        EXPECT_EQ(window->view().station(), unmeasured ? Station::Measure : stationOf(gaugeKind(g.id).mending))
            << g.name;
    }
}

TEST_P(EverythingTest, EachLinkOfEachChainLeadsSomewhere) {
    if (!window->document().open()) return;
    const auto chains = footprint().chains;
    for (const auto& [name, chain] : chains)
        for (const ChainStep& step : chain) {
            const QString target = QString::fromStdString(step.target);
            window->view().setStation(Station::Release);
            QApplication::focusWidget();
            switch (step.link) {
                case ChainStep::Link::Reading: emit window->chain().readingWanted(target); break;
                case ChainStep::Link::Rule: emit window->chain().ruleWanted(target); break;
                case ChainStep::Link::Parameter: emit window->chain().parameterWanted(target); break;
                default: continue;
            }
            EXPECT_NE(window->view().station(), Station::Release) << name << ": " << step.label << " → " << step.target;
        }
}

TEST_P(EverythingTest, EachCommandRuns) {
    DialogCloser closer;
    // One part is painted after each command; for the others that would only take its time again.
    const std::string name = GetParam();
    window->setUpdatesEnabled(name.empty() || name == "QB-TB4");
    const auto run = [&](const Command& c) {
        SCOPED_TRACE(c.name.toStdString());
        const std::optional<Part> before = window->document().open() ? std::optional(part()) : std::nullopt;
        c.run();
        QApplication::processEvents();
        // Each finds the part as it was, which also tries each undo.
        for (int i = 0; before && window->document().open() && i < 20 && !(part() == *before); ++i) {
            const Part now = part();
            window->document().undo();
            if (part() == now) window->document().redo();
        }
        if (before && window->document().open() && c.name != "Open a part") {
            EXPECT_EQ(part(), *before);
        }
    };
    // What leaves the part comes last, and is opened again each time.
    for (const Command& c : window->commands())
        if (c.name != "Quit" && c.name != "New part" && c.name != "Library" && c.name != "Open a part") run(c);
    for (const Command& c : window->commands())
        if (c.name == "Open a part" || c.name == "New part") run(c);
    EXPECT_FALSE(window->document().open());
}

TEST_P(EverythingTest, ARandomWalkOfKeysAndClicksEndsNothing) {
    DialogCloser closer;
    // The window's own tenths of a second are not waited for.
    std::mt19937 random(42);
    const auto pick = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    const Qt::Key plain[] = {
        Qt::Key_Return, Qt::Key_Escape, Qt::Key_Tab,   Qt::Key_Delete, Qt::Key_Backspace, Qt::Key_Up,  Qt::Key_Down,
        Qt::Key_Left,   Qt::Key_Right,  Qt::Key_Space, Qt::Key_F2,     Qt::Key_F3,        Qt::Key_F4,  Qt::Key_F5,
        Qt::Key_F6,     Qt::Key_F7,     Qt::Key_F8,    Qt::Key_F9,     Qt::Key_F10,       Qt::Key_F11, Qt::Key_F12};
    const Qt::Key control[] = {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5,   Qt::Key_6,
                               Qt::Key_Z, Qt::Key_B, Qt::Key_0, Qt::Key_F, Qt::Key_Plus};
    const int events =
        qEnvironmentVariableIntValue("PUNCHBIT_WALK") > 0 ? qEnvironmentVariableIntValue("PUNCHBIT_WALK") : 250;
    for (int i = 0; i < events; ++i) {
        const int what = pick(10);
        if (what < 4) {
            key(plain[pick(std::size(plain))], pick(6) == 0 ? Qt::ShiftModifier : Qt::NoModifier);
        } else if (what < 6) {
            key(control[pick(std::size(control))], Qt::ControlModifier);
        } else if (what < 7) {
            if (QApplication::focusWidget() != nullptr) keys(QString::number(pick(2000) / 100.0));
        } else {
            const QPoint at(pick(window->width()), pick(window->height()));
            QWidget* under = window->childAt(at);
            if (under == nullptr) continue;
            // Links that leave the part are not part of the walk.
            if (under->objectName() == "home") continue;
            const QPoint inside = under->mapFrom(window.get(), at);
            if (pick(5) == 0) {
                QWheelEvent wheel(inside, under->mapToGlobal(inside), {}, {0, pick(2) == 0 ? 120 : -120}, Qt::NoButton,
                                  {}, Qt::NoScrollPhase, false);
                QApplication::sendEvent(under, &wheel);
            } else {
                QTest::mouseClick(under, pick(8) == 0 ? Qt::RightButton : Qt::LeftButton, {}, inside);
            }
        }
        QApplication::processEvents();
    }
    SUCCEED();
}

INSTANTIATE_TEST_SUITE_P(DemoParts, EverythingTest,
                         testing::Values("", "QB-TB4", "HT-RM2", "PW-VS11", "HT-SEL6", "QB-LX4", "PW-RS7"),
                         [](const auto& kind) {
                             std::string name = *kind.param == '\0' ? "empty" : kind.param;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

// ------------------------------------------------------------------ saving, undo, messages

using HouseTest = BenchTest;

TEST_F(HouseTest, SavingTakesWhatStandsInTheFieldOfEachStation) {
    const QString file = write("field.punch", toText(demoPart()));
    ASSERT_TRUE(window->openPath(file));
    int tried = 0;
    QStringList names;
    for (int s = 0; s < kStations; ++s) {
        window->view().setStation(static_cast<Station>(s));
        QApplication::processEvents();
        for (QLineEdit* edit : window->findChildren<QLineEdit*>()) {
            if (!edit->isVisible() || !edit->isEnabled() || edit->isReadOnly() || edit == &window->measure().line() ||
                edit->objectName() == "askBox" || edit->objectName().isEmpty())
                continue;
            const QString before = edit->text();
            bool number = false;
            const double value = before.section(' ', 0, 0).toDouble(&number);
            // Fields that are filled to make something new belong to a button and are not the part's.
            if (edit->objectName().startsWith("potential") || edit->objectName().startsWith("source") ||
                edit->objectName().startsWith("cut") || edit->objectName() == "fabName" ||
                edit->objectName().startsWith("approval") || edit->objectName().startsWith("reason-"))
                continue;
            edit->setFocus();
            if (QApplication::focusWidget() != edit) continue;
            const QString typed = number ? QString::number(value + 0.01) : before + "x";
            edit->selectAll();
            QTest::keyClicks(edit, typed);
            const Part now = part();
            ASSERT_TRUE(window->save());
            if (edit->property("wrong").toBool()) {
                edit->selectAll();
                QTest::keyClicks(edit, before);
                QTest::keyClick(edit, Qt::Key_Return);
                continue;
            }
            ++tried;
            names << edit->objectName();
            const auto saved = loadPart(file.toStdString());
            ASSERT_TRUE(saved);
            EXPECT_FALSE(*saved == now) << edit->objectName().toStdString() << " held “" << typed.toStdString() << "”";
            EXPECT_FALSE(window->document().dirty());
            window->document().undo();
        }
    }
    EXPECT_GE(tried, 12) << names.join(' ').toStdString();
}

TEST_F(HouseTest, UndoRightAfterAReadingTakesTheReadingBack) {
    ASSERT_TRUE(window->openPath(write("undo.punch", toText(*newRow(4)))));
    window->measure().line().setFocus();
    keys("1 4 outside 16.25");
    key(Qt::Key_Return);
    ASSERT_EQ(part().readings.size(), 1U);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().readings.size(), 0U) << "nothing was typed since";
    EXPECT_EQ(window->measure().line().text(), "");
    // What is typed and not entered is taken back first.
    keys("1 4 outside 16.25");
    key(Qt::Key_Return);
    keys("1 width");
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().readings.size(), 1U);
    EXPECT_NE(window->measure().line().text(), "1 width");
}

TEST_F(HouseTest, AMessageLeavesWithWhatItIsAbout) {
    ASSERT_TRUE(window->openPath(write("words.punch", toText(demoPart()))));
    const auto say = [&] {
        window->view().say("red");
        QApplication::processEvents();
        QTest::qWait(1);
        ASSERT_EQ(window->message(), "red");
    };
    say();
    window->view().setStation(Station::Dress);
    EXPECT_EQ(window->message(), "") << "another station";
    say();
    Part next = part();
    next.description += ".";
    window->document().apply("words", next);
    EXPECT_EQ(window->message(), "") << "another state of the part";
    say();
    window->document().undo();
    EXPECT_EQ(window->message(), "");
    say();
    ASSERT_TRUE(window->openPath(write("other.punch", toText(demoPart()))));
    EXPECT_EQ(window->message(), "") << "another part";
    // What is said about an edit while it is made stays.
    window->view().say("new");
    next.description += "!";
    window->document().apply("words", next);
    EXPECT_EQ(window->message(), "new");
}

TEST_F(HouseTest, TypingOnAnEmptyBenchIsNoReading) {
    window->sheet().setFocus();
    QTest::keyClicks(&window->sheet(), "16.25");
    QTest::keyClick(&window->measure().line(), Qt::Key_Return);
    EXPECT_FALSE(window->document().open());
}

TEST_F(HouseTest, DeleteOnAPinSaysWhyItStays) {
    ASSERT_TRUE(window->openPath(write("pin.punch", toText(demoPart()))));
    window->view().choose("p2", {});
    window->sheet().setFocus();
    const Part before = part();
    key(Qt::Key_Delete);
    EXPECT_EQ(part(), before);
    EXPECT_TRUE(window->message().contains("formation"));
    window->view().choose("peg5", {});
    key(Qt::Key_Delete);
    EXPECT_TRUE(part().spots.empty());
}

TEST_F(HouseTest, ARenamedPartOffersToRenameItsFile) {
    ASSERT_TRUE(window->openPath(write("QB-TB4.punch", toText(demoPart()))));
    window->view().setStation(Station::Release);
    auto* rename = find<QPushButton>("renameFile");
    EXPECT_FALSE(rename->isVisible());
    auto* name = find<QLineEdit>("partName");
    name->setFocus();
    retype("QB-TB9");
    ASSERT_TRUE(rename->isVisible());
    click(rename);
    EXPECT_TRUE(QFile::exists(folder.filePath("QB-TB9.punch")));
    EXPECT_FALSE(QFile::exists(folder.filePath("QB-TB4.punch")));
    EXPECT_EQ(window->document().path(), folder.filePath("QB-TB9.punch"));
    EXPECT_FALSE(window->document().dirty());
    EXPECT_FALSE(rename->isVisible());
}

TEST_F(HouseTest, LinksAreShownBeforeTheyOpenAndOnlyWebAddressesDo) {
    Part part0 = demoPart();
    part0.sources.clear();
    for (const char* link : {"https://fennel.example/qb", "file:///usr/bin/true", "/usr/share/applications/x.desktop",
                             "javascript:alert(1)", "fennel.example"}) {
        Source s;
        s.id = "s" + std::to_string(part0.nextId++);
        s.title = link;
        s.link = link;
        part0.sources.push_back(s);
    }
    ASSERT_TRUE(window->openPath(write("links.punch", toText(part0))));
    window->view().setStation(Station::Release);
    QTest::qWait(50);
    QList<QPushButton*> opens;
    for (QPushButton* b : window->release().findChildren<QPushButton*>())
        if (b->text() == "open" && b->isVisible()) opens << b;
    ASSERT_EQ(opens.size(), 5);
    click(opens[0]);
    EXPECT_TRUE(window->message().contains("https://fennel.example/qb")) << "shown first";
    for (int i = 1; i < 5; ++i) {
        click(opens[i]);
        EXPECT_TRUE(window->message().contains("Not opened")) << part0.sources[static_cast<std::size_t>(i)].link;
    }
}

TEST_F(HouseTest, StrangersSourcesAreNotOpened) {
    // Each way out of the part's folder, as a picture and as a link.
    QDir(folder.path()).mkdir("lib");
    QFile secret(folder.filePath("secret.png"));
    ASSERT_TRUE(secret.open(QIODevice::WriteOnly));
    QImage(20, 20, QImage::Format_RGB32).save(&secret, "PNG");
    secret.close();
    QFile::link(folder.filePath("secret.png"), folder.filePath("lib/linked.png"));
    Part stranger = demoPart();
    stranger.sources.clear();
    const char* pictures[] = {"../secret.png", "/etc/hostname", "linked.png", "a/../../secret.png", "/dev/null"};
    for (const char* picture : pictures) {
        Source s;
        s.id = "s" + std::to_string(stranger.nextId++);
        s.title = picture;
        s.picture = picture;
        s.width = s.height = 20;
        stranger.sources.push_back(s);
    }
    const QString file = write("lib/stranger.punch", toText(stranger));
    ASSERT_TRUE(window->openPath(file));
    for (const Source& s : part().sources) EXPECT_EQ(window->pictures().imageOf(s.id), nullptr) << s.picture;
    // Saved elsewhere it takes nothing along.
    QDir(folder.path()).mkdir("deep");
    QDir(folder.path()).mkdir("deep/er");
    ASSERT_TRUE(window->saveAs(folder.filePath("deep/er/copy.punch")));
    EXPECT_FALSE(QFile::exists(folder.filePath("deep/secret.png")));
    EXPECT_FALSE(QFile::exists(folder.filePath("deep/er/linked.png")));
}

}  // namespace
}  // namespace punch::test
