#include "app/side/drop_in_work.h"

#include "core/derive.h"

#include <QCoreApplication>

namespace punch {

DropInWork::DropInWork(Document& document, QObject* parent) : QObject(parent), document_(document) {
    rest_.setSingleShot(true);
    rest_.setInterval(350);
    pool_.setMaxThreadCount(1);
    connect(&rest_, &QTimer::timeout, this, &DropInWork::begin);
    connect(&document_, &Document::changed, this, [this] {
        if (!document_.open() || document_.part() == of_) return;
        report_.reset();
        ++generation_;
        emit changed();
        if (wanted_) rest_.start();
    });
}

DropInWork::~DropInWork() { pool_.waitForDone(); }

void DropInWork::setWanted(bool wanted) {
    if (wanted_ == wanted) return;
    wanted_ = wanted;
    if (wanted_ && !report_) rest_.start();
}

void DropInWork::setTrials(int trials) {
    if (trials_ == trials) return;
    trials_ = trials;
    report_.reset();
    ++generation_;
    if (wanted_) rest_.start();
}

void DropInWork::begin() {
    if (!document_.open() || !wanted_) return;
    if (running_) {
        rest_.start();
        return;
    }
    running_ = true;
    of_ = document_.part();
    emit changed();
    pool_.start([this, part = document_.part(), footprint = document_.footprint(), generation = generation_,
                 trials = trials_]() mutable {
        DropInOptions options;
        options.trials = trials;
        const DropInReport report = dropIn(part, footprint, options);
        QMetaObject::invokeMethod(
            this, [this, generation, report] { arrived(generation, report); }, Qt::QueuedConnection);
    });
}

void DropInWork::arrived(quint64 generation, const DropInReport& report) {
    running_ = false;
    if (generation != generation_) {
        if (wanted_) rest_.start();
        return;
    }
    report_ = report;
    document_.setDropIn(report.share);
    emit changed();
}

void DropInWork::settle() {
    if (!document_.open()) return;
    wanted_ = true;
    while (!report_) {
        rest_.stop();
        begin();
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(this);
    }
}

}  // namespace punch
