#pragma once
// The real window on a (virtual) screen, driven through its widgets by keys and mouse.

#include <gtest/gtest.h>

#include <QTemporaryDir>
#include <QtTest>
#include <QtWidgets>
#include <map>
#include <memory>

#include "app/bench_window.h"
#include "core/part/edit.h"
#include "core/shape/cut_outs.h"
#include "tests/support/parts.h"

namespace punch::test {

class BenchTest : public testing::Test {
protected:
    void SetUp() override;
    void TearDown() override;

    /// Writes a file into the test's folder and gives its path.
    QString write(const QString& name, const std::string& bytes);

    /// Sends keys to whatever widget has the keyboard.
    void keys(const QString& text);
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier);
    /// Presses Tab until the widget of this name has the keyboard. Fails when it is not reached.
    void tabTo(const QString& name);
    /// Empties the focused field and types.
    void retype(const QString& text);
    /// The same without Return.
    void retypeOnly(const QString& text);
    /// Types into the entry line, and Return.
    void enter(const QString& text);
    /// Chooses an entry of the focused choice by typing its beginning.
    void pick(const QString& text);
    void click(QWidget* widget, QPoint at = {});
    void clickFeature(const FeatureId& id);
    template <class T>
    T* find(const QString& name) {
        T* found = window->findChild<T*>(name);
        EXPECT_NE(found, nullptr) << name.toStdString();
        return found;
    }
    /// What the bench says below the sheet.
    QString message() { return find<QLabel>("message")->text(); }
    const Part& part() { return window->document().part(); }
    const Footprint& footprint() { return window->document().footprint(); }
    /// Slots and windows of the part, in the frame of its model.
    std::vector<CutOut> cuts() { return cutOutsOf(part(), footprint(), footprint().datum); }

    QTemporaryDir folder;
    std::unique_ptr<BenchWindow> window;
};

/// What was read of QB-TB4, by the words that the bench asks with.
const std::map<std::string, QString>& demoReadings();

/// The numbers that QB-TB4 must give, whichever way it was entered.
void expectDemoNumbers(const Part& part, const Footprint& footprint);

}  // namespace punch::test
