#include "tests/bench/bench_fixture.h"

#include "app/theme.h"
#include "core/verdicts/gauges.h"

namespace punch::test {

void BenchTest::SetUp() {
    // Triangles that were kept by an earlier run say nothing of this one.
    qputenv("XDG_CACHE_HOME", folder.path().toUtf8());
    ASSERT_TRUE(folder.isValid());
    Document::dropRecoveryOf({});
    window = std::make_unique<BenchWindow>();
    window->setLibrary(folder.path());
    window->resize(1280, 800);
    window->home();
    window->show();
    window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window.get()));
    ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
}

void BenchTest::TearDown() {
    if (window->document().open()) window->document().dropRecovery();
    window->document().close();
    window.reset();
}

QString BenchTest::write(const QString& name, const std::string& bytes) {
    const QString file = folder.filePath(name);
    QFile out(file);
    EXPECT_TRUE(out.open(QIODevice::WriteOnly));
    out.write(bytes.data(), static_cast<qint64>(bytes.size()));
    return file;
}

void BenchTest::keys(const QString& text) {
    QWidget* focus = QApplication::focusWidget();
    ASSERT_NE(focus, nullptr) << "nothing has the keyboard for " << text.toStdString();
    QTest::keyClicks(focus, text);
}

void BenchTest::key(Qt::Key k, Qt::KeyboardModifiers modifiers) {
    QWidget* focus = QApplication::focusWidget();
    QTest::keyClick(focus != nullptr ? focus : window.get(), k, modifiers);
}

void BenchTest::tabTo(const QString& name) {
    for (int i = 0; i < 120; ++i) {
        if (QApplication::focusWidget() != nullptr && QApplication::focusWidget()->objectName() == name) return;
        key(Qt::Key_Tab);
    }
    FAIL() << "Tab never reaches " << name.toStdString();
}

void BenchTest::retypeOnly(const QString& text) {
    key(Qt::Key_A, Qt::ControlModifier);
    keys(text);
}

void BenchTest::retype(const QString& text) {
    retypeOnly(text);
    key(Qt::Key_Return);
}

void BenchTest::enter(const QString& text) {
    window->measure().line().setFocus();
    keys(text);
    key(Qt::Key_Return);
}

void BenchTest::pick(const QString& text) {
    auto* combo = qobject_cast<QComboBox*>(QApplication::focusWidget());
    ASSERT_NE(combo, nullptr);
    const int wanted = combo->findText(text, Qt::MatchStartsWith);
    ASSERT_GE(wanted, 0) << text.toStdString();
    for (int i = 0; i < combo->count() && combo->currentIndex() != wanted; ++i)
        key(combo->currentIndex() < wanted ? Qt::Key_Down : Qt::Key_Up);
    EXPECT_EQ(combo->currentIndex(), wanted);
}

void BenchTest::click(QWidget* widget, QPoint at) {
    ASSERT_NE(widget, nullptr);
    // What lies further down is scrolled to first, as a person would.
    for (QWidget* p = widget->parentWidget(); p != nullptr; p = p->parentWidget())
        if (auto* scrolled = qobject_cast<QScrollArea*>(p)) scrolled->ensureWidgetVisible(widget);
    QTest::mouseClick(widget, Qt::LeftButton, {}, at.isNull() ? widget->rect().center() : at);
}

void BenchTest::clickFeature(const FeatureId& id) {
    QPointF at = window->sheet().placeOf(id);
    // A face is clicked at a quarter of its length, where nothing else lies.
    const Rect& body = footprint().body->rect;
    const double scale = window->sheet().placeOf(kRightFace).x() - window->sheet().placeOf(kLeftFace).x();
    if (id == kRearFace || id == kFrontFace) at.rx() += 0.2 * scale;
    if (id == kLeftFace || id == kRightFace)
        at.ry() -= 0.3 * (window->sheet().placeOf(kFrontFace).y() - window->sheet().placeOf(kRearFace).y());
    if (id == kBody) at += QPointF(0, -0.25 * scale * (body.height() / body.width()));
    ASSERT_EQ(window->sheet().featureAt(at), id);
    QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, at.toPoint());
}

const std::map<std::string, QString>& demoReadings() {
    static const std::map<std::string, QString> table = {
        {"pins 1 and 4, outside", "16.25 16.23 16.26"},
        {"pin 1, width", "1.00 1.00"},
        {"pin 1, thickness", "0.77 0.78"},
        {"pins 1 and 2, inside", "4.07 4.09"},
        {"body, along the row", "20.70"},
        {"left face to pin 1, near edge", "2.23 2.22"},
        {"body, across", "10.20 10.22"},
        {"rear face to pin 1, near edge", "4.51 4.51"},
        {"peg, diameter", "1.50 1.49"},
        {"peg and pin 1, across, outside", "5.14 5.13 5.14"},
        {"peg and pin 1, across, inside", "2.86 2.87"},
        {"peg and pin 4, along, outside", "16.49 16.48 16.50"},
        {"peg and pin 4, along, inside", "13.99 14.00"},
        {"pin 1, length", "3.00"},
        {"body, height", "12.5"},
    };
    return table;
}

void expectDemoNumbers(const Part& part, const Footprint& f) {
    EXPECT_EQ(part.readings.size(), 15u);
    ASSERT_EQ(f.pads.size(), 4u);
    const double x[] = {-7.62, -2.54, 2.54, 7.62};
    for (std::size_t i = 0; i < 4; ++i) {
        EXPECT_NEAR(f.pads[i].at.x.mm(), x[i], 1e-9);
        EXPECT_NEAR(f.pads[i].at.y.mm(), 0, 1e-9);
        EXPECT_EQ(f.pads[i].hole, 1.5_mm);
        EXPECT_EQ(f.pads[i].top.width, 2.5_mm);
    }
    EXPECT_NEAR(f.size("pitch")->asRead, 5.082, 5e-4);
    ASSERT_EQ(f.bareHoles.size(), 1u);
    EXPECT_NEAR(f.bareHoles[0].at.x.mm(), -7.62, 0.01);
    EXPECT_NEAR(f.bareHoles[0].at.y.mm(), -4.00, 0.01);
    EXPECT_EQ(f.bareHoles[0].size, 1.65_mm);
    EXPECT_NEAR(f.body->rect.top.mm(), 4.90, 0.005);
    EXPECT_NEAR(f.body->rect.bottom.mm(), -5.31, 0.005);
    for (const Gauge& g : f.gauges)
        EXPECT_EQ(stateName(g.state), !gaugeKind(g.id).asked(part) ? "unknown"
                                      : g.name == "voltage"        ? "watch"
                                                                   : "go")
            << g.name << ": " << g.words;
}

}  // namespace punch::test

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    // Listing the tests needs no screen.
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    QStandardPaths::setTestModeEnabled(true);
    QApplication::setOrganizationName("Punchbit");
    QApplication::setApplicationName("Punchbit tests");
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    QApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    app.setStyleSheet(punch::theme::styleSheet());
    return RUN_ALL_TESTS();
}
