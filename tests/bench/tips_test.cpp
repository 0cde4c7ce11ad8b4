// Every control says what it does when the mouse rests on it.

#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Tips : public BenchTest {};

TEST_F(Tips, EveryControlHasOne) {
    ASSERT_TRUE(window->openPath(toQt(sourceFolder()) + "/demo/fennel-house/HT-SEL6.punch"));
    for (int s = 0; s < kStations; ++s) {
        window->view().setStation(static_cast<Station>(s));
        QTest::qWait(5);
    }
    window->view().setStation(Station::Measure);
    window->view().setSources(true);
    QTest::qWait(20);
    QStringList without;
    for (QWidget* w : window->findChildren<QWidget*>()) {
        const bool control = qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w) ||
                             (qobject_cast<QLineEdit*>(w) && !qobject_cast<QComboBox*>(w->parentWidget()));
        // Parts of other widgets, such as the arrows of a scroll bar, are not ours.
        if (!control || w->objectName().startsWith("qt_") || qobject_cast<QAbstractItemView*>(w->parentWidget()) ||
            !w->toolTip().isEmpty())
            continue;
        const auto* button = qobject_cast<QAbstractButton*>(w);
        without << w->objectName() + " “" + (button ? button->text() : w->accessibleName()) + "”";
    }
    EXPECT_TRUE(without.isEmpty()) << without.join("\n").toStdString();
}

}  // namespace
}  // namespace punch::test
