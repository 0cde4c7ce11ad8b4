// No text is clipped, nothing lies over anything else: at both sizes, with larger type, in every station.

#include <tuple>

#include "app/theme.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Layout : public BenchTest {
protected:
    void open(QSize size) {
        window->resize(size);
        ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
        QTest::qWait(30);
    }
    bool isLaidOut() {
        const auto labels = window->findChildren<QLabel*>();
        return std::all_of(labels.begin(), labels.end(), [](QLabel* label) {
            return !label->isVisible() || label->text().isEmpty() || !label->wordWrap() ||
                   label->height() + 1 >= label->QLabel::heightForWidth(label->width());
        });
    }
    void expectNothingClipped(const std::string& where) {
        for (QLabel* label : window->findChildren<QLabel*>()) {
            if (!label->isVisible() || label->text().isEmpty()) continue;
            const QString text = label->text().left(40);
            if (label->wordWrap())
                EXPECT_GE(label->height() + 1, label->QLabel::heightForWidth(label->width()))
                    << where << ": " << text.toStdString();
            else
                EXPECT_GE(label->width() + 1, label->sizeHint().width()) << where << ": " << text.toStdString();
        }
        for (QPushButton* button : window->findChildren<QPushButton*>())
            if (button->isVisible()) {
                EXPECT_GE(button->width() + 1, button->fontMetrics().horizontalAdvance(button->text()))
                    << where << ": " << button->text().toStdString();
            }
    }
    void expectTagsApart(const std::string& where) {
        const auto& lines = window->sheet().dimensionLayout().lines;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            EXPECT_TRUE(window->sheet().rect().contains(lines[i].tag.toAlignedRect()))
                << where << ": tag " << lines[i].text.toStdString() << " leaves the sheet";
            for (std::size_t k = i + 1; k < lines.size(); ++k)
                EXPECT_FALSE(lines[i].tag.intersects(lines[k].tag))
                    << where << ": " << lines[i].text.toStdString() << " over " << lines[k].text.toStdString();
        }
    }
    void everyStation(QSize size) {
        open(size);
        for (int i = 0; i < kStations; ++i) {
            window->view().setStation(static_cast<Station>(i));
            QTest::qWait(100);
            // Until the last label has its width; a column of many takes some turns.
            std::ignore = QTest::qWaitFor([this] { return isLaidOut(); }, 3000);
            const std::string where =
                stationName(static_cast<Station>(i)).toStdString() + " at " + std::to_string(size.width());
            expectNothingClipped(where);
            expectTagsApart(where);
            // The bars over the sheet do not lie on each other.
            QList<QRect> bars{find<QPushButton>("sideBadge")->geometry()};
            for (int l = 0; l < kLenses; ++l)
                bars << find<QPushButton>("lens-" + lensName(static_cast<Lens>(l)))->geometry();
            for (int a = 0; a < bars.size(); ++a)
                for (int b = a + 1; b < bars.size(); ++b) EXPECT_FALSE(bars[a].intersects(bars[b])) << where;
        }
    }
};

TEST_F(Layout, SpaceTakesTheRoomOfTheSheet) {
    window->resize(1280, 800);
    window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/HT-SEL6.punch"));
    window->view().setStation(Station::Measure);
    QApplication::processEvents();
    const int wide = window->sheet().width();
    window->view().setStation(Station::Fit);
    QApplication::processEvents();
    ASSERT_TRUE(window->solidView().isVisible());
    EXPECT_NEAR(window->solidView().width(), wide, 20);
}

TEST_F(Layout, AtTheSmallSize) { everyStation({1280, 800}); }
TEST_F(Layout, OnASmallScreen) {
    everyStation({1024, 700});
    EXPECT_EQ(window->width(), 1024) << "the window does not ask for more";
    for (QScrollArea* column : window->findChildren<QScrollArea*>())
        if (column->isVisible() && column->widget() != nullptr) {
            EXPECT_LE(column->widget()->width(), column->viewport()->width()) << "sideways overflow";
        }
}
TEST_F(Layout, AtTheLargeSize) { everyStation({1920, 1080}); }

TEST_F(Layout, SourcesWithAllThatWasFound) {
    for (const QSize size : {QSize(1280, 800), QSize(1920, 1080)}) {
        open(size);
        ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/HT-SEL6.punch"));
        window->view().setSources(true);
        window->sources().find();
        // Wrapped labels ask for their height once more when they know their width.
        QTest::qWait(300);
        expectNothingClipped("Sources at " + std::to_string(size.width()));
        EXPECT_EQ(find<QListWidget>("foundList")->count(), 9);
        EXPECT_FALSE(find<QListWidget>("foundList")->horizontalScrollBar()->isVisible()) << size.width();
    }
}

TEST_F(Layout, LargerTypeMakesLargerControls) {
    const QFont usual = QApplication::font();
    QFont larger = usual;
    larger.setPointSizeF(usual.pointSizeF() * 1.25);
    QApplication::setFont(larger);
    qApp->setStyleSheet(theme::styleSheet());
    TearDown();
    SetUp();
    everyStation({1280, 800});
    QApplication::setFont(usual);
    qApp->setStyleSheet(theme::styleSheet());
}

TEST_F(Layout, TheSheetUsesTheRoom) {
    open({1280, 800});
    const double small = window->sheet().placeOf("p4").x() - window->sheet().placeOf("p1").x();
    window->resize(1920, 1080);
    QTest::qWait(50);
    EXPECT_GT(window->sheet().placeOf("p4").x() - window->sheet().placeOf("p1").x(), small * 1.3);
}

TEST_F(Layout, ALongRowStaysReadable) {
    window->document().begin(*newRow(40));
    window->view().setStation(Station::Measure);
    QTest::qWait(30);
    expectNothingClipped("40 pins");
    const QRectF sheet = window->sheet().rect();
    EXPECT_TRUE(sheet.contains(window->sheet().placeOf("p1")));
    EXPECT_TRUE(sheet.contains(window->sheet().placeOf("p40")));
    Document::dropRecoveryOf({});
}

}  // namespace
}  // namespace punch::test
