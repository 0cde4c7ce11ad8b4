// Nonsense typed into every field: a message, the text stays, nothing changes, nothing ends.

#include "core/part/field_lists.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class BadInput : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    }
};

TEST_F(BadInput, EntryLineKeepsWhatIsWrong) {
    window->view().setStation(Station::Measure);
    const Part before = part();
    auto& line = window->measure().line();
    for (const char* typed : {"1 4 outside abc", "1 width -2", "1 width 4000", "1 4 outside 12,5", "9 width 1", "hello",
                              "1 4 outside", "5 6 7", "1 1 outside 5", "((("}) {
        line.setFocus();
        line.setText(typed);
        key(Qt::Key_Return);
        EXPECT_EQ(line.text(), typed);
        EXPECT_TRUE(line.property("wrong").toBool()) << typed;
        EXPECT_EQ(part(), before) << typed;
    }
    key(Qt::Key_Escape);
    EXPECT_FALSE(line.property("wrong").toBool());
}

TEST_F(BadInput, EveryLengthFieldRefusesNonsense) {
    const Part before = part();
    for (int i = 0; i < kStations; ++i) {
        window->view().setStation(static_cast<Station>(i));
        for (LengthEdit* field : window->findChildren<LengthEdit*>()) {
            if (!field->isVisible() || !field->isEnabled()) continue;
            for (const char* typed : {"abc", "-5", "1e9", "", "5 mm mm", "1/0"}) {
                field->setFocus();
                const QString good = field->text();
                key(Qt::Key_A, Qt::ControlModifier);
                if (*typed == 0)
                    key(Qt::Key_Delete);
                else
                    keys(typed);
                key(Qt::Key_Return);
                EXPECT_EQ(field->text(), typed) << field->objectName().toStdString();
                EXPECT_TRUE(field->property("wrong").toBool())
                    << field->objectName().toStdString() << " took " << typed;
                EXPECT_FALSE(window->message().isEmpty());
                key(Qt::Key_Escape);
                EXPECT_FALSE(field->property("wrong").toBool());
            }
        }
    }
    EXPECT_EQ(part(), before);
}

/// What a field of a list refuses: no number at all, and what lies just outside its limits; none for choices and ticks.
template <class S>
QStringList refused(const Field<S>& f) {
    if (!std::holds_alternative<Length S::*>(f.member) && !std::holds_alternative<double S::*>(f.member) &&
        !std::holds_alternative<std::vector<Length> S::*>(f.member) &&
        !std::holds_alternative<std::optional<Length> S::*>(f.member) &&
        !std::holds_alternative<std::optional<Angle> S::*>(f.member))
        return {};
    const double step = 0.001;
    QStringList all = {"abc", "1/0", "1e9", "nan", QString::number(f.range.most + step, 'g', 12)};
    if (f.sign != Sign::Any) all << QString::number(f.range.least - step, 'g', 12);
    if (f.sign == Sign::Above || f.range.open) all << "0";
    if (f.range.open) all << QString::number(f.range.most);
    return all;
}

TEST_F(BadInput, EveryFieldOfTheListsRefusesWhatIsOutsideItsLimits) {
    window->view().choose("p2", {});
    find<QComboBox>("landOf")->setCurrentIndex(0);
    const Part before = part();
    int tried = 0;
    const auto attempt = [&](const auto& list) {
        for (const auto& f : list) {
            auto* field = window->findChild<QLineEdit*>(f.name);
            if (field == nullptr) continue;
            field->setVisible(true);  // it may stand behind a link
            for (const QString& typed : refused(f)) {
                const QString good = field->text();
                field->setText(typed);
                field->setModified(true);
                emit field->editingFinished();
                EXPECT_EQ(part(), before) << f.name << " took " << typed.toStdString();
                EXPECT_EQ(field->text(), typed) << f.name;
                EXPECT_TRUE(field->property("wrong").toBool()) << f.name << " took " << typed.toStdString();
                EXPECT_TRUE(window->message().startsWith(f.label)) << f.name << ": " << window->message().toStdString();
                if (f.range.open) {
                    EXPECT_FALSE(window->message().contains("e-")) << window->message().toStdString();
                }
                field->setProperty("wrong", false);
                field->setModified(false);
                field->setText(good);
                ++tried;
            }
        }
    };
    window->view().setStation(Station::Size);
    attempt(ruleFields());
    attempt(insulatingFields());
    attempt(fabFields());
    attempt(overrideFields());
    window->view().setStation(Station::Dress);
    attempt(dressFields());
    EXPECT_GT(tried, 150);
}

TEST_F(BadInput, PotentialsSayWhichFieldIsWrong) {
    window->view().setStation(Station::Size);
    const Part before = part();
    const auto attempt = [&](const char* name, const char* volts, const char* pins) {
        find<QLineEdit>("potentialName")->setText(name);
        find<QLineEdit>("potentialVolts")->setText(volts);
        find<QLineEdit>("potentialPins")->setText(pins);
        find<QPushButton>("addPotential")->click();
        EXPECT_EQ(part(), before);
        EXPECT_FALSE(window->message().isEmpty());
    };
    attempt("", "230", "1");
    EXPECT_TRUE(find<QLineEdit>("potentialName")->property("wrong").toBool());
    attempt("x", "many", "1");
    EXPECT_TRUE(find<QLineEdit>("potentialVolts")->property("wrong").toBool());
    attempt("x", "-230", "1");
    attempt("x", "1000000", "1");
    attempt("x", "230", "");
    attempt("x", "230", "9");
    attempt("x", "230", "one");
    attempt("x", "230", "1-99999999");
}

TEST_F(BadInput, StartPageCounts) {
    window->home();
    for (const char* typed : {"0", "-1", "four", "2.5", "1e9", ""}) {
        find<QLineEdit>("startPins")->setText(typed);
        find<QPushButton>("putOnBench")->click();
        EXPECT_FALSE(window->document().open()) << typed;
        EXPECT_EQ(find<QLineEdit>("startPins")->text(), typed);
        EXPECT_TRUE(find<QLineEdit>("startPins")->property("wrong").toBool());
    }
}

TEST_F(BadInput, RandomKeysNeverEndTheProgram) {
    std::mt19937 random(4);
    const Qt::Key special[] = {Qt::Key_Return, Qt::Key_Tab, Qt::Key_Escape, Qt::Key_Up, Qt::Key_Down,
                               Qt::Key_Delete, Qt::Key_F4,  Qt::Key_F5,     Qt::Key_F6, Qt::Key_F2,
                               Qt::Key_F3,     Qt::Key_F7,  Qt::Key_F8};
    const QString letters = "0123456789. outsidewnearpgbody";
    for (int i = 0; i < 600; ++i) {
        if (random() % 3 == 0)
            key(special[random() % std::size(special)]);
        else if (QApplication::focusWidget() != nullptr)
            keys(letters[static_cast<qsizetype>(random() % static_cast<unsigned>(letters.size()))]);
        if (random() % 40 == 0) window->view().setStation(static_cast<Station>(random() % kStations));
        if (random() % 25 == 0) key(Qt::Key_Z, Qt::ControlModifier);
    }
    EXPECT_TRUE(window->isVisible());
}

}  // namespace
}  // namespace punch::test
